/** Rows of files with their newest version. */
import type { FileEntry } from '../../contract/api.ts';
import { many, type Db } from '../db/pool.ts';
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
