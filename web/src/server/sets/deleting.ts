/** Deleting files and bringing them back. A deleted file is out of the lists; its versions stay. */
import type { FileEntry, Person } from '../../contract/api.ts';
import type { DeletedFile } from '../../contract/desk.ts';
import { refuseAnyHeldByOther } from '../checkouts/service.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permitFile, permitVersion, scopeIn } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { getFile, nameTaken } from '../projects/service.ts';
import { appendVersion, newestOf } from '../versions/service.ts';
import { lockedFile, versionRow } from '../versions/rows.ts';
import { newSet } from './sets.ts';
import {
  noteDeleted,
  dropCheckout,
  markDeleted,
  countDeleted,
  noteBroughtBack,
  unmarkDeleted,
  countBroughtBack,
  deletedRows,
} from './rows.ts';

/** Takes a file out of the lists. */
export async function deleteFile(by: Person, fileId: string, reason: string): Promise<void> {
  await permitFile(by, 'check out', fileId, 'delete files');
  await transaction(async (client) => {
    const file = await lockedFile(client, fileId);
    if (!file) throw notFound('file');
    if (file.deleted_in) throw new Problem(409, 'deleted', `“${file.name}” is deleted already.`);
    await refuseAnyHeldByOther(client, fileId, by);
    const set = await newSet(client, { projectId: file.project_id, kind: 'delete', note: reason, by: by.id });
    await takeOut(client, { fileId, projectId: file.project_id, setId: set.id });
    await record(client, [{ act: 'deleted', by, subject: file.name, reason, projectId: file.project_id, fileId }]);
  });
}

interface Going {
  readonly fileId: string;
  readonly projectId: string;
  readonly setId: string;
}

/** Takes a file out as part of a set that is under way. */
export async function takeOut(client: Client, { fileId, projectId, setId }: Going): Promise<void> {
  await noteDeleted(client, setId, fileId);
  await dropCheckout(client, fileId);
  await markDeleted(client, fileId, setId);
  await countDeleted(client, projectId);
  await tell(client, { kind: 'files', file: fileId, project: projectId });
}

/** What was deleted from a project, the latest first. */
export async function listDeleted(by: Person, projectId: string): Promise<DeletedFile[]> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const rows = await deletedRows(db(), projectId, scope);
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    folderId: r.folder_id,
    versions: r.versions,
    by: { id: r.by_id, name: r.by_name },
    at: r.made_at.toISOString(),
    set: r.number,
    reason: r.note,
  }));
}

/** Puts a deleted file back where it was, with its last version or an older one as the newest. */
export async function bringBack(
  by: Person,
  fileId: string,
  {
    versionId,
    name: given,
    reason = '',
  }: { versionId?: string | undefined; name?: string | undefined; reason?: string | undefined },
): Promise<FileEntry> {
  await permitFile(by, 'check out', fileId, 'bring files back');
  if (versionId) await permitVersion(by, versionId);
  await transaction(async (client) => {
    const file = await lockedFile(client, fileId);
    if (!file) throw notFound('file');
    if (!file.deleted_in) throw new Problem(409, 'not-deleted', `“${file.name}” is not deleted.`);
    const name = given === undefined ? file.name : checkName(given, 'file');
    const source = versionId ? await versionRow(versionId, client) : undefined;
    if (source && source.file_id !== fileId) throw notFound('version');
    const newest = await newestOf(client, fileId);
    const set = await newSet(client, { projectId: file.project_id, kind: 'bring back', note: reason, by: by.id });
    await noteBroughtBack(client, set.id, fileId);
    await unmarkDeleted(client, fileId, name).catch(nameTaken('file', name));
    await countBroughtBack(client, file.project_id);
    const versions: string[] = [];
    if (source && newest && source.content_id !== newest.content_id) {
      const id = await appendVersion(client, newest, {
        fileId,
        contentId: source.content_id,
        uploadName: source.upload_name,
        sourceId: source.id,
        by: by.id,
        setId: set.id,
        note: `Brought forward from v${source.number} when the file was brought back${reason ? `: ${reason}` : '.'}`,
      });
      versions.push(id);
    }
    await tell(client, { kind: 'files', file: fileId, project: file.project_id });
    const place = { projectId: file.project_id, fileId };
    await record(client, [{ ...place, act: 'brought back', by, subject: name, reason, versions }]);
  });
  return getFile(by, fileId);
}
