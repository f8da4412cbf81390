/** Lines of a file: started, renamed, closed; and versions that become files of their own. */
import type { z } from 'zod';
import type { Person, Version } from '../../contract/api.ts';
import type { branchedFileSchema, branchFileSchema, lineageSchema, lineSchema } from '../../contract/lines.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permit, permitFile, permitVersion, rightsAt } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { insertFile, lockProject } from '../projects/rows.ts';
import { folderIn, nameTaken } from '../projects/service.ts';
import { newSet } from '../sets/sets.ts';
import { refuseNoteless, refuseTaken } from '../versions/refusals.ts';
import { insertLine, versionOf, versionRow, type VersionRow } from '../versions/rows.ts';
import { addVersion, appendVersion, lockFile, newestOf } from '../versions/service.ts';
import {
  changeLineRow,
  hasLineCalled,
  lineRow,
  madeFrom,
  madeOf,
  nextPosition,
  versionsUpTo,
  type LineState,
  type RelativeRow,
} from './rows.ts';

const BRANCH = 'branch versions off';

/** Starts a line from a version; its first version has the same content. */
export async function startLine(by: Person, versionId: string, name: string, reason: string): Promise<Version> {
  await permit(by, 'check out', await permitVersion(by, versionId), BRANCH);
  const from = await versionRow(versionId);
  const id = await transaction(async (client) => {
    const { file } = await lockFile(client, from.file_id);
    const place = { projectId: file.project_id, folderId: file.folder_id };
    await permit(by, 'check out', place, BRANCH, client);
    await refuseTakenName(client, from.file_id, name, null);
    const note = reason || `Branched off from v${from.number}.`;
    await refuseNoteless(client, file.project_id, [file.folder_id], note);
    const set = await newSet(client, { projectId: file.project_id, kind: 'check-in', note, by: by.id });
    const lineId = await insertLine(client, from.file_id, name, await nextPosition(client, from.file_id), from.id);
    const made = await addVersion(client, lineId, from.number + 1, [{ id: from.id, role: 'follows' }], {
      fileId: from.file_id,
      contentId: from.content_id,
      note,
      uploadName: from.upload_name,
      by: by.id,
      setId: set.id,
    });
    await tell(client, { kind: 'version', file: from.file_id, project: file.project_id });
    const subject = `${file.name} v${from.number}, as “${name}”`;
    const entry = { projectId: file.project_id, fileId: from.file_id, by, subject, reason: note, versions: [made] };
    await record(client, [{ ...entry, act: 'branched off' }]);
    return made;
  });
  return versionOf(await versionRow(id));
}

async function refuseTakenName(client: Client, fileId: string, name: string, besides: string | null): Promise<void> {
  if (await hasLineCalled(client, fileId, name, besides))
    throw new Problem(409, 'name-taken', `There is a line called “${name}” already (capitals do not count).`);
}

export async function changeLine(
  by: Person,
  lineId: string,
  change: { readonly name?: string | undefined; readonly closed?: boolean | undefined },
): Promise<z.infer<typeof lineSchema>> {
  const line = await lineRow(db(), lineId);
  if (!line) throw notFound('line');
  await permitFile(by, 'check out', line.file_id, 'change lines');
  if (line.position === 0) throw new Problem(409, 'main-line', 'The main line keeps its name, and stays open.');
  await transaction(async (client) => {
    const { file } = await lockFile(client, line.file_id);
    const now = (await lineRow(client, lineId)) as LineState;
    const name = change.name ?? now.name;
    const closed = change.closed ?? now.closed_at !== null;
    await refuseTakenName(client, line.file_id, name, lineId);
    await changeLineRow(client, lineId, name, closed);
    await tell(client, { kind: 'version', file: line.file_id, project: file.project_id });
    const said = [
      ...(name === now.name ? [] : [`is called “${name}”`]),
      ...(closed === (now.closed_at !== null) ? [] : [closed ? 'is closed' : 'is open again']),
    ];
    if (said.length === 0) return;
    const subject = `${file.name}, “${now.name}” ${said.join(' and ')}`;
    await record(client, [{ act: 'changed a line', by, subject, projectId: file.project_id, fileId: line.file_id }]);
  });
  const { id, file_id: fileId, name, position, closed_at: closedAt } = (await lineRow(db(), lineId)) as LineState;
  return { id, fileId, name, position, closed: closedAt !== null };
}

type BranchFile = z.output<typeof branchFileSchema>;

/** Makes a version a file of its own. It knows where it comes from; the source is not touched. */
export async function branchFile(
  by: Person,
  versionId: string,
  { name: wanted, reason, history, ...to }: BranchFile,
): Promise<z.infer<typeof branchedFileSchema>> {
  const here = await permitVersion(by, versionId);
  const from = await versionRow(versionId);
  const name = checkName(wanted, 'file');
  const projectId = to.projectId ?? here.projectId;
  const folderId = to.folderId === undefined && to.projectId === undefined ? here.folderId : (to.folderId ?? null);
  const place = { projectId, folderId };
  await permit(by, 'check out', place, 'make files');
  if (history) await permit(by, 'see old versions', here);
  const made = await transaction((client) => branchIn(client, by, from, { ...place, name, reason, history }));
  const version = versionOf(await versionRow(made));
  return { fileId: version.fileId, version };
}

interface Target {
  readonly projectId: string;
  readonly folderId: string | null;
  readonly name: string;
  readonly reason: string;
  readonly history: boolean;
}

async function branchIn(client: Client, by: Person, from: VersionRow, target: Target): Promise<string> {
  const { projectId, folderId, name, history } = target;
  await lockProject(client, projectId);
  await permit(by, 'check out', { projectId, folderId }, 'make files', client);
  if (folderId) await folderIn(client, folderId, projectId);
  await refuseTaken(client, projectId, folderId, name);
  const note = target.reason || `Branched off from v${from.number}.`;
  await refuseNoteless(client, projectId, [folderId], note);
  const fileId = await insertFile(client, { projectId, folderId, name, by: by.id, at: undefined }).catch(
    nameTaken('file', name),
  );
  const set = await newSet(client, { projectId, kind: 'check-in', note, by: by.id });
  const before = history ? (await versionsUpTo(client, from.id)).slice(0, -1) : [];
  const versions: string[] = [];
  for (const old of before) {
    const newest = await newestOf(client, fileId);
    const id = await appendVersion(client, newest, {
      fileId,
      contentId: old.content_id,
      note: old.note,
      title: old.title ?? undefined,
      kind: old.kind,
      uploadName: old.upload_name,
      by: old.made_by,
      at: old.made_at,
      setId: set.id,
    });
    versions.push(id);
  }
  const last = await appendVersion(client, await newestOf(client, fileId), {
    fileId,
    contentId: from.content_id,
    note,
    uploadName: name,
    by: by.id,
    setId: set.id,
    sourceId: from.id,
    sourceRole: 'branched off from',
  });
  await tell(client, { kind: 'files', file: fileId, project: projectId });
  const subject = `v${from.number}, as ${name}`;
  const entry = { projectId, fileId, by, subject, reason: note, versions: [...versions, last] };
  await record(client, [{ ...entry, act: 'branched off' }]);
  return last;
}

/** What the file was made from, and what was made from it, as far as the person may see. */
export async function lineage(by: Person, fileId: string): Promise<z.infer<typeof lineageSchema>> {
  await permitFile(by, 'see', fileId);
  const [from, made] = await Promise.all([madeFrom(db(), fileId), madeOf(db(), fileId)]);
  const seen = await Promise.all(made.map(async (row) => ((await maySee(by, row)) ? [relativeOf(row)] : [])));
  return { from: from && (await maySee(by, from)) ? relativeOf(from) : null, made: seen.flat() };
}

const maySee = async (by: Person, { project_id: projectId, folder_id: folderId }: RelativeRow): Promise<boolean> =>
  (await rightsAt(by, { projectId, folderId })).has('see');

const relativeOf = (row: RelativeRow): z.infer<typeof lineageSchema>['made'][number] => ({
  fileId: row.file_id,
  file: row.file,
  versionId: row.version_id,
  number: row.number,
  newestId: row.newest_id,
});
