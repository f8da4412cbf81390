/**
 * Erase back to: an older version is the newest again, because the later ones are removed for good. What goes is told
 * beforehand; the ledger keeps who, when, why and the hashes of what is gone.
 */
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { erasePreviewSchema, erasedSchema, eraseSchema } from '../../contract/erasing.ts';
import { refuseAnyHeldByOther } from '../checkouts/service.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit, permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { versionRow, type VersionRow } from '../versions/rows.ts';
import { lockFile } from '../versions/service.ts';
import {
  branchesFrom,
  bytesOnlyOf,
  checkedInWith,
  countComments,
  deleteVersions,
  referInstead,
  referringTo,
  versionsAfter,
  type GoingRow,
} from './rows.ts';

type Preview = z.infer<typeof erasePreviewSchema>;

/** What would go if all versions of its line after this one were erased. */
export async function erasePreview(by: Person, versionId: string): Promise<Preview> {
  await permit(by, 'erase', await permitVersion(by, versionId));
  const to = await versionRow(versionId);
  const going = await versionsAfter(db(), to.line_id, to.number);
  const ids = going.map(({ id }) => id);
  const [comments, bytes, referring, together, blocked, file] = await Promise.all([
    countComments(db(), ids),
    bytesOnlyOf(db(), ids),
    referringTo(db(), ids),
    checkedInWith(db(), ids),
    reasonsAgainst(db(), going),
    nameOf(to),
  ]);
  return {
    fileId: to.file_id,
    file,
    to: { id: to.id, number: to.number },
    versions: going.map((v) => ({
      id: v.id,
      number: v.number,
      by: { id: v.by_id, name: v.by_name },
      at: v.made_at.toISOString(),
      note: v.note,
    })),
    people: [...Map.groupBy(going, (v) => v.by_name)].map(([name, of]) => ({ name, versions: of.length })),
    comments,
    bytes,
    referring: referring.map(({ file_id: fileId, ...rest }) => ({ fileId, ...rest })),
    together: together.map(({ file_id: fileId, version_id, ...rest }) => ({ fileId, versionId: version_id, ...rest })),
    blocked,
  };
}

async function nameOf({ file_id: fileId }: VersionRow): Promise<string> {
  const { rows } = await db().query<{ name: string }>('select name from file where id = $1', [fileId]);
  return rows[0]?.name ?? '';
}

/** Keepers stay, and so does what something starts from; each with what would free it. */
async function reasonsAgainst(client: Db, going: readonly GoingRow[]): Promise<string[]> {
  const branches = await branchesFrom(
    client,
    going.map(({ id }) => id),
  );
  return [
    ...going.flatMap(({ number, title }) =>
      title === null ? [] : [`v${number} is a keeper, “${title}”. Take its title away first, if it may go.`],
    ),
    ...branches.map(({ number, name, as_file }) =>
      as_file
        ? `The file “${name}” was made from v${number}. While it is there, v${number} stays.`
        : `The line “${name}” starts from v${number}. While it is there, v${number} stays.`,
    ),
  ];
}

export async function eraseBack(
  by: Person,
  versionId: string,
  { reason, name, useInstead }: z.output<typeof eraseSchema>,
): Promise<z.infer<typeof erasedSchema>> {
  await permit(by, 'erase', await permitVersion(by, versionId));
  const to = await versionRow(versionId);
  const count = await transaction(async (client) => {
    const { file } = await lockFile(client, to.file_id);
    const place = { projectId: file.project_id, folderId: file.folder_id };
    await permit(by, 'erase', place, undefined, client);
    await refuseAnyHeldByOther(client, to.file_id, by);
    if (name !== file.name)
      throw new Problem(400, 'not-confirmed', `Type the name of the file, “${file.name}”, to confirm.`);
    const going = await versionsAfter(client, to.line_id, to.number);
    if (going.length === 0)
      throw new Problem(
        409,
        'nothing-to-erase',
        `v${to.number} is the newest version already: nothing comes after it.`,
      );
    const [against] = await reasonsAgainst(client, going);
    if (against !== undefined) throw new Problem(409, 'kept', against);
    const ids = going.map(({ id }) => id);
    const numbers =
      going.length === 1
        ? `v${going[0]?.number ?? ''}`
        : `v${going[0]?.number ?? ''} to v${going.at(-1)?.number ?? ''}`;
    await referInstead(client, ids, useInstead ? to.id : null);
    await tell(client, { kind: 'version', file: to.file_id, project: file.project_id });
    const entry = { projectId: file.project_id, fileId: to.file_id, by, reason, erased: ids };
    // Entered while they are still there, so that the entry holds what they were.
    await record(client, [{ ...entry, act: 'erased', subject: `${file.name} ${numbers}, back to v${to.number}` }]);
    await deleteVersions(client, ids);
    return going.length;
  });
  const said = count === 1 ? 'One version was' : `${count} versions were`;
  return {
    versions: count,
    sentence: `${said} erased for good. v${to.number} is the newest again.`,
    newest: { id: to.id, number: to.number, lineId: to.line_id },
  };
}
