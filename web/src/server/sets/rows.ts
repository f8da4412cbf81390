/** Rows of check-in sets and of deleted files. */
import { many, one, type Db } from '../db/pool.ts';
import { ENGINE } from '@ovrel/core';
import { STORE } from '../store/copy.ts';
import type { Scope } from '../people/access.ts';
import { type SetKind } from '../../contract/desk.ts';
import { isFiltering, type VersionFilter } from '../../contract/version-filter.ts';
import { passes } from '../versions/filter.ts';

export interface MadeSet {
  readonly id: string;
  readonly number: number;
}

export const insertSet = (
  client: Db,
  projectId: string,
  kind: string,
  note: string,
  by: string,
  at: Date | undefined,
): Promise<MadeSet | undefined> =>
  one<MadeSet>(
    client,
    `
    with counted as (update project set sets = sets + 1 where id = $1 returning sets)
    insert into checkin_set (project_id, number, kind, note, made_by, made_at) select $1, sets, $2, $3, $4, coalesce($5, now()) from counted returning id, number`,
    [projectId, kind, note, by, at ?? null],
  );

const setSelect = `
  select s.id, s.project_id, s.number, s.kind, s.note, p.id as by_id, p.name as by_name, s.made_at
  from checkin_set s join person p on p.id = s.made_by`;

export interface SetRow {
  id: string;
  project_id: string;
  number: number;
  kind: SetKind;
  note: string;
  by_id: string;
  by_name: string;
  made_at: Date;
}

export const setRow = (client: Db, id: string): Promise<SetRow | undefined> =>
  one<SetRow>(client, `${setSelect} where s.id = $1`, [id]);

export async function noteDeleted(client: Db, setId: string, fileId: string): Promise<void> {
  await client.query('insert into deleted_file (set_id, file_id) values ($1, $2)', [setId, fileId]);
}

export async function dropCheckout(client: Db, fileId: string): Promise<void> {
  await client.query('delete from checkout where file_id = $1', [fileId]);
}

export async function markDeleted(client: Db, fileId: string, setId: string): Promise<void> {
  await client.query('update file set deleted_in = $2 where id = $1', [fileId, setId]);
}

export async function countDeleted(client: Db, project_id: string): Promise<void> {
  await client.query('update project set files = files - 1 where id = $1', [project_id]);
}

export async function noteBroughtBack(client: Db, setId: string, fileId: string): Promise<void> {
  await client.query('insert into deleted_file (set_id, file_id, brought_back) values ($1, $2, true)', [setId, fileId]);
}

export async function unmarkDeleted(client: Db, fileId: string, name: string): Promise<void> {
  await client.query('update file set deleted_in = null, name = $2 where id = $1', [fileId, name]);
}

export async function countBroughtBack(client: Db, project_id: string): Promise<void> {
  await client.query('update project set files = files + 1 where id = $1', [project_id]);
}

export interface DeletedRow {
  readonly id: string;
  readonly name: string;
  readonly folder_id: string | null;
  readonly versions: number;
  readonly by_id: string;
  readonly by_name: string;
  readonly made_at: Date;
  readonly number: number;
  readonly note: string;
}

/** Deleted files whose history a person may see, the latest first. */
export function deletedRows(client: Db, projectId: string, scope: Scope): Promise<DeletedRow[]> {
  const values: unknown[] = [projectId, STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<DeletedRow & Record<string, unknown>>(
    client,
    `select f.id, f.name, f.folder_id,
       (select count(*)::int from version v where v.store_id = $2 and v.file_id = f.id) as versions,
       p.id as by_id, p.name as by_name, s.made_at, s.number, s.note
     from file f join checkin_set s on s.id = f.deleted_in join person p on p.id = s.made_by
     where f.project_id = $1 and f.deleted_in is not null and ${seen} order by s.number desc limit 500`,
    values,
  );
}

export interface FileOfSet {
  readonly set_id: string;
  readonly file_id: string;
  readonly name: string;
  readonly version_id: string | null;
  readonly parent_id: string | null;
  readonly version: number | null;
  readonly line: string | null;
  readonly summary: string | null;
  readonly first: boolean;
  readonly deleted: boolean;
}

/** The files of sets whose history a person may see. */
export function filesOfSets(client: Db, sets: readonly string[], scope: Scope): Promise<FileOfSet[]> {
  const values: unknown[] = [STORE, sets, ENGINE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<FileOfSet & Record<string, unknown>>(
    client,
    `select v.set_id, v.file_id, f.name, v.id as version_id, follows.parent_id, v.number as version,
       case when l.position > 0 then l.name end as line,
       (select k.summary from comparison k
        where k.store_id = v.store_id and k.content_a = parent.content_id and k.content_b = v.content_id
          and k.engine = $3 limit 1) as summary,
       follows.parent_id is null as first, f.deleted_in is not null as deleted
     from version v join file f on f.id = v.file_id join line l on l.id = v.line_id
     left join version_parent follows
       on follows.store_id = v.store_id and follows.version_id = v.id and follows.role = 'follows'
     left join version parent on parent.store_id = v.store_id and parent.id = follows.parent_id
     where v.store_id = $1 and v.set_id = any($2) and ${seen}
     union all
     select d.set_id, d.file_id, f.name, null::uuid, null::uuid, null::int, null, null, false, f.deleted_in is not null
     from deleted_file d join file f on f.id = d.file_id
     where d.set_id = any($2) and ${seen} and not exists (
       select 1 from version v where v.store_id = $1 and v.set_id = d.set_id and v.file_id = d.file_id)
     order by name`,
    values,
  );
}

/** Sets of a project that touch something that a person may see, newest first; of one file, if it is given. */
export function setRows(client: Db, projectId: string, wanted: WantedSets, scope: Scope): Promise<SetRow[]> {
  const values: unknown[] = [projectId];
  const condition = isWanted(wanted, scope, values);
  const most = `$${values.push(wanted.most)}`;
  return many<SetRow & Record<string, unknown>>(
    client,
    `${setSelect} where s.project_id = $1 and ${condition} order by s.number desc limit ${most}`,
    values,
  );
}

export async function countSets(client: Db, projectId: string, wanted: WantedSets, scope: Scope): Promise<number> {
  const values: unknown[] = [projectId];
  const condition = isWanted(wanted, scope, values);
  const row = await one<{ n: number } & Record<string, unknown>>(
    client,
    `select count(*)::int as n from checkin_set s where s.project_id = $1 and ${condition}`,
    values,
  );
  return row?.n ?? 0;
}

export interface WantedSets {
  /** Only sets with smaller numbers. */
  readonly before: number | undefined;
  readonly file: string | undefined;
  /** A set is shown where a version of it passes. */
  readonly filter: VersionFilter;
  readonly most: number;
}

function isWanted({ before, file, filter }: WantedSets, scope: Scope, values: unknown[]): string {
  const older = before === undefined ? 'true' : `s.number < $${values.push(before)}`;
  const ofFile = file === undefined ? undefined : `$${values.push(file)}`;
  const isSeen = (row: string): string =>
    `${ofFile ? `${row}.file_id = ${ofFile}` : 'true'} and ${scope.condition('f.project_id', 'f.folder_id', values)}`;
  // What was deleted has no version that could pass.
  const deletions = isFiltering(filter) ? 'false and' : '';
  const touches = `(
    exists (
      select 1 from version v join file f on f.id = v.file_id
      where v.store_id = ${STORE} and v.set_id = s.id and ${isSeen('v')} and ${passes(filter, values)})
    or ${deletions} exists (
      select 1 from deleted_file d join file f on f.id = d.file_id where d.set_id = s.id and ${isSeen('d')}))`;
  const isAny = scope.everywhere && ofFile === undefined && !isFiltering(filter);
  return `${older} and ${isAny ? 'true' : touches}`;
}

/** Who made versions of a project, or of one file. */
export const makers = (
  client: Db,
  { projectId, fileId }: { readonly projectId: string; readonly fileId?: string },
): Promise<{ id: string; name: string }[]> =>
  many(
    client,
    `select id, name from person where id in (
       select v.made_by from version v join file f on f.id = v.file_id
       where v.store_id = $1 and f.project_id = $2 and ($3::uuid is null or f.id = $3))
     order by name`,
    [STORE, projectId, fileId ?? null],
  );
