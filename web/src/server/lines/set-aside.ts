/** What is there now becomes a file of its own, and the file begins again from a starting state: one act, one set. */
import type { z } from 'zod';
import type { Person, setAsideAnswerSchema, setAsideSchema } from '../../contract/api.ts';
import { refuseHeldByOther } from '../checkouts/service.ts';
import { transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permit, permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { hasFileCalled, insertFile, lockProject } from '../projects/rows.ts';
import { nameTaken } from '../projects/service.ts';
import { newSet } from '../sets/sets.ts';
import { refuseNoteless, refuseTaken } from '../versions/refusals.ts';
import { versionOf, versionRow, type VersionRow } from '../versions/rows.ts';
import { appendVersion, lockFile } from '../versions/service.ts';

/** Names that are tried where they are numbered. */
const MOST_NUMBERS = 10_000;

export async function setAside(
  by: Person,
  versionId: string,
  { name, reason }: z.output<typeof setAsideSchema>,
): Promise<z.infer<typeof setAsideAnswerSchema>> {
  await permit(by, 'check out', await permitVersion(by, versionId));
  const start = await versionRow(versionId);
  if (!start.starting)
    throw new Problem(409, 'no-starting-state', `v${start.number} is no starting state. Make it one first.`);
  const done = await transaction((client) => setAsideIn(client, by, start, name, reason));
  const newest = versionOf(await versionRow(done.versionId));
  return {
    aside: { fileId: done.fileId, name: done.name, versionId: done.asideId },
    newest,
    sentence: `What was there is “${done.name}” now, and v${newest.number} begins again from v${start.number}.`,
  };
}

async function setAsideIn(
  client: Client,
  by: Person,
  start: VersionRow,
  wanted: string,
  reason: string,
): Promise<{ fileId: string; name: string; versionId: string; asideId: string }> {
  const { file, newest } = await lockFile(client, start.file_id);
  const { project_id: projectId, folder_id: folderId } = file;
  await lockProject(client, projectId);
  await permit(by, 'check out', { projectId, folderId }, undefined, client);
  if (newest) await refuseHeldByOther(client, newest.line_id, by);
  if (!newest || newest.content_id === start.content_id)
    throw new Problem(
      409,
      'nothing-to-set-aside',
      `The newest version is as v${start.number} already: nothing to set aside.`,
    );
  const note = reason || `Set aside, to start afresh from v${start.number}.`;
  await refuseNoteless(client, projectId, [folderId], note);
  const name = await freeName(client, { projectId, folderId, fileName: file.name }, wanted);
  const aside = await insertFile(client, { projectId, folderId, name, by: by.id, at: undefined }).catch(
    nameTaken('file', name),
  );
  const set = await newSet(client, { projectId, kind: 'bring forward', note, by: by.id });
  const common = { note, by: by.id, setId: set.id };
  const first = await appendVersion(client, undefined, {
    ...common,
    fileId: aside,
    contentId: newest.content_id,
    uploadName: name,
    sourceId: newest.id,
    sourceRole: 'branched off from',
  });
  const again = await appendVersion(client, newest, {
    ...common,
    fileId: start.file_id,
    contentId: start.content_id,
    uploadName: start.upload_name,
    sourceId: start.id,
  });
  await tell(client, { kind: 'version', file: start.file_id, project: projectId });
  await tell(client, { kind: 'files', file: aside, project: projectId });
  const entry = { act: 'set aside', by, reason: note, projectId } as const;
  await record(client, [
    { ...entry, fileId: aside, subject: `${file.name} v${newest.number}, as ${name}`, versions: [first] },
    { ...entry, fileId: start.file_id, subject: `${file.name}, again from v${start.number}`, versions: [again] },
  ]);
  return { fileId: aside, name, versionId: again, asideId: first };
}

interface NamePlace {
  readonly projectId: string;
  readonly folderId: string | null;
  readonly fileName: string;
}

/** With date, time and number filled in, and the ending of the file where it has none. */
async function freeName(client: Client, { projectId, folderId, fileName }: NamePlace, wanted: string): Promise<string> {
  const [date = '', time = ''] = new Date().toISOString().split('T');
  const dot = fileName.lastIndexOf('.');
  const ending = dot > 0 ? fileName.slice(dot) : '';
  const whole = wanted.toLowerCase().endsWith(ending.toLowerCase()) ? wanted : `${wanted}${ending}`;
  const filled = whole.replaceAll('{date}', date).replaceAll('{time}', time.slice(0, 5).replace(':', '.'));
  if (!filled.includes('{number}')) {
    const name = checkName(filled, 'file');
    await refuseTaken(client, projectId, folderId, name);
    return name;
  }
  for (let n = 1; n < MOST_NUMBERS; n++) {
    const name = checkName(filled.replaceAll('{number}', String(n)), 'file');
    if (!(await hasFileCalled(client, projectId, folderId, name))) return name;
  }
  throw new Problem(409, 'name-taken', 'All numbers are taken. Choose another name.');
}
