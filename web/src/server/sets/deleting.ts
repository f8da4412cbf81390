/** Deleting files and bringing them back. A deleted file is out of the lists; its versions stay. */
import type { FileEntry, Person } from '../../contract/api.ts';
import type { DeletedFile } from '../../contract/desk.ts';
import { refuseHeldByOther } from '../checkouts/service.ts';
import { db, many, one, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permitFile, permitVersion, scopeIn } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { getFile, nameTaken } from '../projects/service.ts';
import { STORE } from '../store/copy.ts';
import { appendVersion, newestOf } from '../versions/service.ts';
import { versionRow } from '../versions/rows.ts';
import { newSet } from './sets.ts';

interface Locked {
  id: string;
  name: string;
  project_id: string;
  folder_id: string | null;
  deleted_in: string | null;
}

const lock = (client: Parameters<typeof one>[0], id: string): Promise<Locked | undefined> =>
  one<Locked>(client, 'select id, name, project_id, folder_id, deleted_in from file where id = $1 for update', [id]);

/** Takes a file out of the lists. */
export async function deleteFile(by: Person, fileId: string, reason: string): Promise<void> {
  await permitFile(by, 'check out', fileId, 'delete files');
  await transaction(async (client) => {
    const file = await lock(client, fileId);
    if (!file) throw notFound('file');
    if (file.deleted_in) throw new Problem(409, 'deleted', `“${file.name}” is deleted already.`);
    await refuseHeldByOther(client, fileId, by);
    const set = await newSet(client, { projectId: file.project_id, kind: 'delete', note: reason, by: by.id });
    await client.query('insert into deleted_file (set_id, file_id) values ($1, $2)', [set.id, fileId]);
    await client.query('delete from checkout where file_id = $1', [fileId]);
    await client.query('update file set deleted_in = $2 where id = $1', [fileId, set.id]);
    await client.query('update project set files = files - 1 where id = $1', [file.project_id]);
    await tell(client, { kind: 'files', file: fileId, project: file.project_id });
    await record(client, [{ act: 'deleted', by, subject: file.name, reason, projectId: file.project_id, fileId }]);
  });
}

/** What was deleted from a project, the latest first. */
export async function listDeleted(by: Person, projectId: string): Promise<DeletedFile[]> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const values: unknown[] = [projectId, STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  const rows = await many<{
    id: string;
    name: string;
    folder_id: string | null;
    versions: number;
    by_id: string;
    by_name: string;
    made_at: Date;
    number: number;
    note: string;
  }>(
    db(),
    `
    select f.id, f.name, f.folder_id, (select count(*)::int from version v where v.store_id = $2 and v.file_id = f.id) as versions, p.id as by_id, p.name as by_name, s.made_at, s.number, s.note
    from file f join checkin_set s on s.id = f.deleted_in join person p on p.id = s.made_by
    where f.project_id = $1 and f.deleted_in is not null and ${seen} order by s.number desc limit 500`,
    values,
  );
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
    const file = await lock(client, fileId);
    if (!file) throw notFound('file');
    if (!file.deleted_in) throw new Problem(409, 'not-deleted', `“${file.name}” is not deleted.`);
    const name = given === undefined ? file.name : checkName(given, 'file');
    const source = versionId ? await versionRow(versionId, client) : undefined;
    if (source && source.file_id !== fileId) throw notFound('version');
    const newest = await newestOf(client, fileId);
    const set = await newSet(client, { projectId: file.project_id, kind: 'bring back', note: reason, by: by.id });
    await client.query('insert into deleted_file (set_id, file_id, brought_back) values ($1, $2, true)', [
      set.id,
      fileId,
    ]);
    await client
      .query('update file set deleted_in = null, name = $2 where id = $1', [fileId, name])
      .catch(nameTaken('file', name));
    await client.query('update project set files = files + 1 where id = $1', [file.project_id]);
    if (source && newest && source.content_id !== newest.content_id) {
      await appendVersion(client, newest, {
        fileId,
        contentId: source.content_id,
        uploadName: source.upload_name,
        sourceId: source.id,
        by: by.id,
        setId: set.id,
        note: `Brought forward from v${source.number} when the file was brought back${reason ? `: ${reason}` : '.'}`,
      });
    }
    await tell(client, { kind: 'files', file: fileId, project: file.project_id });
    await record(client, [{ act: 'brought back', by, subject: name, reason, projectId: file.project_id, fileId }]);
  });
  return getFile(by, fileId);
}
