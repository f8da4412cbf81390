/** Check-in sets: what changed together. Every act that makes versions, deletes or brings back is one. */
import type { Person } from '../../contract/api.ts';
import type { CheckinSet, SetKind } from '../../contract/desk.ts';
import { ENGINE } from '@ovrel/core';
import { db, many, one, type Client } from '../db/pool.ts';
import { permit, scopeIn, scopeOf, type Scope } from '../people/access.ts';
import { notFound } from '../problem.ts';
import { STORE } from '../store/copy.ts';

const PAGE = 50;

export interface NewSet {
  readonly projectId: string;
  readonly kind: SetKind;
  readonly note: string;
  readonly by: string;
  readonly at?: Date | undefined;
}

export interface MadeSet {
  readonly id: string;
  readonly number: number;
}

/** Makes a set and numbers it. Holds the project's row until the transaction ends; files are locked before. */
export async function newSet(client: Client, { projectId, kind, note, by, at }: NewSet): Promise<MadeSet> {
  const row = await one<MadeSet>(
    client,
    `
    with counted as (update project set sets = sets + 1 where id = $1 returning sets)
    insert into checkin_set (project_id, number, kind, note, made_by, made_at) select $1, sets, $2, $3, $4, coalesce($5, now()) from counted returning id, number`,
    [projectId, kind, note, by, at ?? null],
  );
  if (!row) throw notFound('project');
  return row;
}

interface SetRow {
  id: string;
  project_id: string;
  number: number;
  kind: SetKind;
  note: string;
  by_id: string;
  by_name: string;
  made_at: Date;
}

const select = `
  select s.id, s.project_id, s.number, s.kind, s.note, p.id as by_id, p.name as by_name, s.made_at
  from checkin_set s join person p on p.id = s.made_by`;

interface FileOfSet {
  set_id: string;
  file_id: string;
  name: string;
  version_id: string | null;
  parent_id: string | null;
  version: number | null;
  line: string | null;
  summary: string | null;
  first: boolean;
  deleted: boolean;
}

/** Sets with those of their files whose history the person may see. */
async function withFiles(rows: readonly SetRow[], scope: Scope): Promise<CheckinSet[]> {
  const values: unknown[] = [STORE, rows.map((r) => r.id)];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  const files = await many<FileOfSet>(
    db(),
    `
    select v.set_id, v.file_id, f.name, v.id as version_id, follows.parent_id, v.number as version, case when l.position > 0 then l.name end as line,
      (select k.summary from comparison k where k.store_id = v.store_id and k.content_a = parent.content_id and k.content_b = v.content_id and k.engine = '${ENGINE}' limit 1) as summary,
      follows.parent_id is null as first, f.deleted_in is not null as deleted
    from version v join file f on f.id = v.file_id join line l on l.id = v.line_id
    left join version_parent follows on follows.store_id = v.store_id and follows.version_id = v.id and follows.role = 'follows'
    left join version parent on parent.store_id = v.store_id and parent.id = follows.parent_id
    where v.store_id = $1 and v.set_id = any($2) and ${seen}
    union all
    select d.set_id, d.file_id, f.name, null::uuid, null::uuid, null::int, null, null, false, f.deleted_in is not null
    from deleted_file d join file f on f.id = d.file_id
    where d.set_id = any($2) and ${seen} and not exists (select 1 from version v where v.store_id = $1 and v.set_id = d.set_id and v.file_id = d.file_id)
    order by name`,
    values,
  );
  return rows.map((r) => ({
    id: r.id,
    projectId: r.project_id,
    number: r.number,
    kind: r.kind,
    note: r.note,
    by: { id: r.by_id, name: r.by_name },
    at: r.made_at.toISOString(),
    files: files
      .filter((f) => f.set_id === r.id)
      .map((f) => ({
        fileId: f.file_id,
        name: f.name,
        versionId: f.version_id,
        parentId: f.parent_id,
        version: f.version,
        line: f.line,
        summary: f.summary,
        first: f.first,
        deleted: f.deleted,
      })),
  }));
}

/** Sets of a project, newest first; of one file, if it is given. Sets of which the person may see nothing are left out. */
export async function listSets(
  by: Person,
  projectId: string,
  { before, file }: { before?: number | undefined; file?: string | undefined },
): Promise<CheckinSet[]> {
  const scope = await scopeIn(by, 'see old versions', projectId, 'see the history');
  const values: unknown[] = [projectId, before ?? null];
  const fileAt = file ? `$${values.push(file)}` : undefined;
  const ofFile = (row: string): string =>
    `${fileAt ? `${row}.file_id = ${fileAt}` : 'true'} and ${scope.condition('f.project_id', 'f.folder_id', values)}`;
  const touches =
    scope.everywhere && !file
      ? 'true'
      : `(
    exists (select 1 from version v join file f on f.id = v.file_id where v.store_id = ${STORE} and v.set_id = s.id and ${ofFile('v')})
    or exists (select 1 from deleted_file d join file f on f.id = d.file_id where d.set_id = s.id and ${ofFile('d')}))`;
  return withFiles(
    await many<SetRow>(
      db(),
      `${select} where s.project_id = $1 and ($2::int is null or s.number < $2) and ${touches} order by s.number desc limit ${PAGE}`,
      values,
    ),
    scope,
  );
}

export async function getSet(by: Person, id: string): Promise<CheckinSet> {
  const row = await one<SetRow>(db(), `${select} where s.id = $1`, [id]);
  if (!row) throw notFound('check-in set');
  const scope = await scopeOf(by, 'see old versions', row.project_id);
  const set = (await withFiles([row], scope))[0];
  if (set?.files.length) return set;
  await permit(by, 'see old versions', { projectId: row.project_id, folderId: null }, 'see the history');
  throw notFound('check-in set');
}

/** A set as whoever has just checked it in is told of it. */
export async function madeSet(by: Person, id: string): Promise<CheckinSet | null> {
  const row = await one<SetRow>(db(), `${select} where s.id = $1`, [id]);
  return row ? ((await withFiles([row], await scopeOf(by, 'see', row.project_id)))[0] ?? null) : null;
}
