/** Rows of files with their newest version. */
import type { FileEntry } from '../../contract/api.ts';
import type { Scope } from '../people/access.ts';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import { versionColumns, versionJoins, versionOf, withoutPast, type VersionRow } from '../versions/rows.ts';

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

const fileSelect = `
  select f.id as file_row_id, f.project_id, p.name as project_name, f.folder_id, f.name as file_name, f.created_at as file_created_at, f.deleted_in,
         (select h.name from checkout o join line ol on ol.id = o.line_id and ol.position = 0 join person h on h.id = o.person_id where o.file_id = f.id) as holder, fm.id as file_maker_id, fm.name as file_maker_name, v.number as versions, ${versionColumns}
  from file f
  join project p on p.id = f.project_id
  join person fm on fm.id = f.created_by
  cross join lateral (select id, name from line where file_id = f.id and position = 0 limit 1) l
  cross join lateral (select * from version where store_id = ${STORE} and line_id = l.id order by number desc limit 1) v
  ${versionJoins}`;

/** A file for somebody who may see its past, or the newest version only. */
export const fileRow = (r: FileRow, seesPast: boolean): Omit<FileEntry, 'path' | 'projectName'> => ({
  id: r.file_row_id,
  projectId: r.project_id,
  folderId: r.folder_id,
  name: r.file_name,
  createdAt: r.file_created_at.toISOString(),
  createdBy: { id: r.file_maker_id, name: r.file_maker_name },
  versions: r.versions,
  newest: seesPast ? versionOf(r) : withoutPast(versionOf(r)),
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

/**
 * Counts a file in another project. In one statement, in the order of ids, so that two moves cannot wait for one
 * another.
 */
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
export const fileCalled = (
  client: Db,
  projectId: string,
  folderId: string | null,
  name: string,
): Promise<{ id: string } | undefined> =>
  one(
    client,
    `select id from file where project_id = $1 and folder_id is not distinct from $2
       and lower(name) = lower($3) and deleted_in is null`,
    [projectId, folderId, name],
  );

export const hasFileCalled = async (...where: Parameters<typeof fileCalled>): Promise<boolean> =>
  (await fileCalled(...where)) !== undefined;

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

const projectSelect = `
  select p.id, p.name, p.created_at, m.id as maker_id, m.name as maker_name, p.files, p.changed_at, p.sitting_pause
  from project p join person m on m.id = p.created_by`;

export interface ProjectRow {
  id: string;
  name: string;
  created_at: Date;
  maker_id: string;
  maker_name: string;
  files: number;
  changed_at: Date | null;
  sitting_pause: number;
}

export const projectRows = (client: Db): Promise<ProjectRow[]> =>
  many<ProjectRow>(client, `${projectSelect} order by lower(p.name)`);

export const projectRow = (client: Db, id: string): Promise<ProjectRow | undefined> =>
  one<ProjectRow>(client, `${projectSelect} where p.id = $1`, [id]);

export const insertProject = (client: Db, name: string, personId: string): Promise<{ id: string } | undefined> =>
  one(client, 'insert into project (name, created_by) values ($1, $2) returning id', [name, personId]);

export async function putLead(client: Db, projectId: string, personId: string): Promise<void> {
  await client.query(`insert into access (project_id, person_id, role, set_by) values ($1, $2, 'lead', $2)`, [
    projectId,
    personId,
  ]);
}

/** Minutes; what is not found has what projects begin with. */
export const sittingPauseOf = async (client: Db, projectId: string): Promise<number> =>
  (await one<{ minutes: number }>(client, 'select sitting_pause as minutes from project where id = $1', [projectId]))
    ?.minutes ?? 30;

export async function updateSittingPause(client: Db, projectId: string, minutes: number): Promise<void> {
  await client.query('update project set sitting_pause = $2 where id = $1', [projectId, minutes]);
}

export async function nameProject(client: Db, id: string, name: string): Promise<void> {
  await client.query('update project set name = $2 where id = $1', [id, name]);
}

const TOP = '00000000-0000-0000-0000-000000000000';

/** In folder $2, or at the top where that is null; as the indexes over names have it. */
const within = (column: string): string => `coalesce(${column}, '${TOP}') = coalesce($2::uuid, '${TOP}')`;

export interface FolderRow {
  id: string;
  project_id: string;
  parent_id: string | null;
  name: string;
}

export const foldersWithin = (
  client: Db,
  projectId: string,
  folderId: string | null,
): Promise<(FolderRow & { files: number })[]> =>
  many<FolderRow & { files: number }>(
    client,
    `
      select id, project_id, parent_id, name, (select count(*)::int from file f where f.folder_id = folder.id and f.deleted_in is null) as files
      from folder where project_id = $1 and ${within('parent_id')} order by lower(name)`,
    [projectId, folderId],
  );

export const filesWithin = (client: Db, projectId: string, folderId: string | null): Promise<FileRow[]> =>
  many<FileRow>(
    client,
    `${fileSelect} where f.project_id = $1 and f.deleted_in is null and ${within('f.folder_id')} order by lower(f.name)`,
    [projectId, folderId],
  );

export const folderRows = (client: Db, projectId: string): Promise<FolderRow[]> =>
  many<FolderRow>(
    client,
    'select id, project_id, parent_id, name from folder where project_id = $1 order by lower(name)',
    [projectId],
  );

export const folderOfProject = (client: Db, id: string, projectId: string): Promise<FolderRow | undefined> =>
  one<FolderRow>(client, 'select id, project_id, parent_id, name from folder where id = $1 and project_id = $2', [
    id,
    projectId,
  ]);

export const insertFolder = (
  client: Db,
  projectId: string,
  parentId: string | null,
  name: string,
  personId: string,
): Promise<FolderRow | undefined> =>
  one<FolderRow>(
    client,
    'insert into folder (project_id, parent_id, name, created_by) values ($1, $2, $3, $4) returning id, project_id, parent_id, name',
    [projectId, parentId, name, personId],
  );

export const folderRow = (client: Db, id: string): Promise<FolderRow | undefined> =>
  one<FolderRow>(client, 'select id, project_id, parent_id, name from folder where id = $1', [id]);

export async function changeFolderRow(client: Db, id: string, name: string, parentId: string | null): Promise<void> {
  await client.query('update folder set name = $2, parent_id = $3 where id = $1', [id, name, parentId]);
}

export const fileRowOf = (client: Db, id: string): Promise<(FileRow & { project_name: string }) | undefined> =>
  one<FileRow & { project_name: string }>(client, `${fileSelect} where f.id = $1`, [id]);

/** Columns that projects, folders and, of some, files have, and that are null where nothing is said. */
export type RuleColumn = 'note_required' | 'saves_count';

export interface WhereRule {
  readonly what: 'project' | 'folder' | 'file';
  readonly id: string;
}

/** The file says so, or the nearest folder that says anything, or the project. */
export const ruleAbove = (
  client: Db,
  column: RuleColumn,
  {
    projectId,
    folderId,
    fileId,
  }: { readonly projectId: string; readonly folderId: string | null; readonly fileId?: string },
): Promise<{ holds: boolean } | undefined> =>
  one(
    client,
    `
    with recursive up as (
      select id, parent_id, ${column} as said, 0 as step from folder where id = $2
      union all
      select f.id, f.parent_id, f.${column}, up.step + 1 from folder f join up on f.id = up.parent_id
    )
    select coalesce(
      ${fileId === undefined ? '' : `(select ${column} from file where id = $3),`}
      (select said from up where said is not null order by step limit 1),
      (select ${column} from project where id = $1),
      false
    ) as holds`,
    [projectId, folderId, ...(fileId === undefined ? [] : [fileId])],
  );

export const ruleSaid = (
  client: Db,
  column: RuleColumn,
  { what, id }: WhereRule,
): Promise<{ said: boolean | null } | undefined> =>
  one(client, `select ${column} as said from ${what} where id = $1`, [id]);

export const sayRule = (
  client: Db,
  column: RuleColumn,
  { what, id }: WhereRule,
  value: boolean | null,
): Promise<{ name: string } | undefined> =>
  one(client, `update ${what} set ${column} = $2 where id = $1 returning name`, [id, value]);

export const projectOfFolder = (client: Db, folderId: string): Promise<{ project_id: string } | undefined> =>
  one(client, 'select project_id from folder where id = $1', [folderId]);

export const filesAtMoment = (
  client: Db,
  projectId: string,
  at: Date | undefined,
): Promise<
  {
    folder_id: string | null;
    name: string;
    content_id: string;
    size: string;
    format: string | null;
    made_at: Date;
  }[]
> =>
  many(
    client,
    `
    select f.folder_id, f.name, v.content_id, c.size, c.format, v.made_at
    from file f
    join line l on l.file_id = f.id and l.position = 0
    join lateral (
      select content_id, made_at from version
      where store_id = $1 and line_id = l.id and ($3::timestamptz is null or made_at <= $3) order by number desc limit 1) v on true
    join content c on c.store_id = $1 and c.id = v.content_id
    left join checkin_set gone on gone.id = f.deleted_in
    where f.project_id = $2 and (gone.id is null or gone.made_at > $3)
    order by lower(f.name)`,
    [STORE, projectId, at ?? null],
  );

/** How many files of projects a person may see. */
export function countSeen(client: Db, projects: readonly string[], scope: Scope): Promise<{ id: string; n: number }[]> {
  const values: unknown[] = [projects];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many(
    client,
    `select f.project_id as id, count(*)::int as n from file f
     where f.project_id = any($1) and f.deleted_in is null and ${seen} group by 1`,
    values,
  );
}

/** Text as a pattern of like, of which nothing stands for anything else. */
export const literally = (text: string): string => text.toLowerCase().replace(/[\\%_]/g, (c) => `\\${c}`);

export interface CalledRow {
  readonly id: string;
  readonly name: string;
  readonly project: string;
  readonly number: number;
  readonly made_at: Date;
}

/** Files whose name contains the words and that a person may see, the latest first. */
export function filesCalled(client: Db, words: string, scope: Scope): Promise<CalledRow[]> {
  const values: unknown[] = [literally(words), STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<CalledRow & Record<string, unknown>>(
    client,
    `select f.id, f.name, p.name as project, v.number, v.made_at
     from file f
     join project p on p.id = f.project_id
     join line l on l.file_id = f.id and l.position = 0
     join lateral (
       select number, made_at from version where store_id = $2 and line_id = l.id order by number desc limit 1) v on true
     where f.deleted_in is null and lower(f.name) like '%' || $1 || '%' and ${seen}
     order by v.made_at desc limit 30`,
    values,
  );
}
