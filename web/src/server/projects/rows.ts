/** Rows of files with their newest version. */
import type { FileEntry } from '../../contract/api.ts';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import { versionColumns, versionJoins, versionOf, type VersionRow } from '../versions/rows.ts';

export interface FileRow extends VersionRow {
  file_row_id: string;
  project_id: string;
  project_name: string;
  folder_id: string | null;
  file_name: string;
  file_created_at: Date;
  file_maker_id: string;
  file_maker_name: string;
  versions: number;
  deleted_in: string | null;
  holder: string | null;
}

export const fileSelect = `
  select f.id as file_row_id, f.project_id, p.name as project_name, f.folder_id, f.name as file_name, f.created_at as file_created_at, f.deleted_in,
         (select h.name from checkout o join person h on h.id = o.person_id where o.file_id = f.id) as holder, fm.id as file_maker_id, fm.name as file_maker_name, v.number as versions, ${versionColumns}
  from file f
  join project p on p.id = f.project_id
  join person fm on fm.id = f.created_by
  cross join lateral (select id, name from line where file_id = f.id and position = 0 limit 1) l
  cross join lateral (select * from version where store_id = ${STORE} and line_id = l.id order by number desc limit 1) v
  ${versionJoins}`;

export const fileRow = (r: FileRow): Omit<FileEntry, 'path' | 'projectName'> => ({
  id: r.file_row_id,
  projectId: r.project_id,
  folderId: r.folder_id,
  name: r.file_name,
  createdAt: r.file_created_at.toISOString(),
  createdBy: { id: r.file_maker_id, name: r.file_maker_name },
  versions: r.versions,
  newest: versionOf(r),
  deletedIn: r.deleted_in,
  holder: r.holder,
});

/** Folders from the top down to `folderId`. */
export async function folderPath(client: Db, folderId: string | null): Promise<{ id: string; name: string }[]> {
  if (!folderId) return [];
  const rows = await many<{ id: string; name: string }>(
    client,
    `
    with recursive up as (
      select id, parent_id, name, 0 as step from folder where id = $1
      union all
      select f.id, f.parent_id, f.name, up.step + 1 from folder f join up on f.id = up.parent_id
    )
    select id, name from up order by step desc`,
    [folderId],
  );
  return rows.map(({ id, name }) => ({ id, name }));
}

/** Held until the end of the transaction. */
export async function lockProject(client: Db, projectId: string): Promise<void> {
  await client.query('select 1 from project where id = $1 for update', [projectId]);
}

export async function moveFile(
  client: Db,
  fileId: string,
  name: string,
  { projectId, folderId }: { readonly projectId: string; readonly folderId: string | null },
): Promise<void> {
  await client.query('update file set name = $2, folder_id = $3, project_id = $4 where id = $1', [
    fileId,
    name,
    folderId,
    projectId,
  ]);
}

/** Counts a file in another project. In one statement, in the order of ids, so that two moves cannot wait for one another. */
export async function countMoved(client: Db, fileId: string, from: string, to: string): Promise<void> {
  await client.query(
    `update project set
       files = files + case id when $1 then -1 else 1 end,
       changed_at = greatest(changed_at, case when id = $2 then (select max(made_at) from version where file_id = $3) end)
     where id in (select id from project where id in ($1, $2) order by id for update)`,
    [from, to, fileId],
  );
}

/** Capitals do not count, and deleted files do not. */
export const hasFileCalled = async (
  client: Db,
  projectId: string,
  folderId: string | null,
  name: string,
): Promise<boolean> =>
  (await one(
    client,
    `select 1 from file where project_id = $1 and folder_id is not distinct from $2
       and lower(name) = lower($3) and deleted_in is null`,
    [projectId, folderId, name],
  )) !== undefined;

interface NewFile {
  readonly projectId: string;
  readonly folderId: string | null;
  readonly name: string;
  readonly by: string;
  /** Only the demo's loader says when. */
  readonly at?: Date | undefined;
}

export async function insertFile(client: Db, { projectId, folderId, name, by, at }: NewFile): Promise<string> {
  const file = await one<{ id: string }>(
    client,
    `insert into file (project_id, folder_id, name, created_by, created_at)
     values ($1, $2, $3, $4, coalesce($5, now())) returning id`,
    [projectId, folderId, name, by, at ?? null],
  );
  if (!file) throw new Error('a file was not inserted');
  return file.id;
}

/** Files by their ids; those that are not there are left out. */
export const fileRows = (client: Db, ids: readonly string[]): Promise<FileRow[]> =>
  many<FileRow>(client, `${fileSelect} where f.id = any($1)`, [ids]);
