/** Rows of versions, ready for the interface. Joins expect `v` (version) and `l` (line). */
import type { Right } from '../../contract/access.ts';
import { ENGINE } from '@ovrel/core';
import type { SourceRole, Version } from '../../contract/api.ts';
import { db, many, one, type Client, type Db } from '../db/pool.ts';
import { notFound } from '../problem.ts';
import { STORE } from '../store/copy.ts';

export interface VersionRow {
  id: string;
  file_id: string;
  number: number;
  line: string;
  kind: Version['kind'];
  title: string | null;
  description: string;
  starting: boolean;
  note: string;
  by_id: string;
  by_name: string;
  made_at: Date;
  size: string;
  hash: Buffer;
  format: string | null;
  upload_name: string;
  line_id: string;
  source_id: string | null;
  source_number: number | null;
  source_role: Parent['role'] | null;
  source_file_id: string | null;
  source_file: string | null;
  parent_id: string | null;
  set_number: number | null;
  summary: string | null;
  content_id: string;
  parent_content_id: string | null;
}

export const versionColumns = `
  v.id, v.file_id, v.number, v.line_id, l.name as line, v.kind, v.title, v.description, v.starting, v.note, maker.id as by_id, maker.name as by_name, v.made_at,
  c.size, c.hash, c.format, v.upload_name, source.id as source_id, source.number as source_number, goes_on.role as source_role, source_file.id as source_file_id, source_file.name as source_file, parent.id as parent_id, checkin_set.number as set_number, v.content_id, parent.content_id as parent_content_id,
  (select k.summary from comparison k
   where k.store_id = v.store_id and k.content_a = parent.content_id and k.content_b = v.content_id and k.engine = '${ENGINE}' and k.options not like '% within %' limit 1) as summary`;

export const versionJoins = `
  join person maker on maker.id = v.made_by
  left join checkin_set on checkin_set.id = v.set_id
  join content c on c.store_id = v.store_id and c.id = v.content_id
  left join version_parent goes_on on goes_on.store_id = v.store_id and goes_on.version_id = v.id and goes_on.role <> 'follows'
  left join version source on source.store_id = v.store_id and source.id = goes_on.parent_id
  left join file source_file on source_file.id = source.file_id and source.file_id <> v.file_id
  left join version_parent follows on follows.store_id = v.store_id and follows.version_id = v.id and follows.role = 'follows'
  left join version parent on parent.store_id = v.store_id and parent.id = follows.parent_id`;

export const versionOf = (r: VersionRow): Version => ({
  id: r.id,
  fileId: r.file_id,
  number: r.number,
  line: r.line,
  lineId: r.line_id,
  kind: r.kind,
  title: r.title,
  description: r.description,
  starting: r.starting,
  note: r.note,
  by: { id: r.by_id, name: r.by_name },
  at: r.made_at.toISOString(),
  size: Number(r.size),
  sha256: r.hash.toString('hex'),
  format: r.format,
  uploadName: r.upload_name,
  source: r.source_number,
  sourceId: r.source_id,
  sourceRole: r.source_role === 'follows' ? null : r.source_role,
  sourceFile: r.source_file_id === null ? null : { id: r.source_file_id, name: r.source_file ?? '' },
  parentId: r.parent_id,
  set: r.set_number ?? 0,
  summary: r.summary,
});

/**
 * A version for somebody who may see the newest only: the summary of what changed tells of the one before.
 */
export const withoutPast = (version: Version): Version => ({ ...version, summary: null });

/** A version for somebody with these rights at its place. */
export const versionFor = (row: VersionRow, held: ReadonlySet<Right>): Version =>
  held.has('see old versions') ? versionOf(row) : withoutPast(versionOf(row));

export const versionSelect = `select ${versionColumns} from version v join line l on l.id = v.line_id ${versionJoins}`;

export type SubjectRow = Pick<VersionRow, 'content_id' | 'upload_name' | 'size' | 'format'>;

/** The content of the version that this one follows. */
export const parentSubject = (client: Db, versionId: string): Promise<SubjectRow | undefined> =>
  one<SubjectRow>(
    client,
    `select c.id as content_id, parent.upload_name, c.size, c.format
     from version v
     join version_parent follows on follows.store_id = v.store_id and follows.version_id = v.id and follows.role = 'follows'
     join version parent on parent.store_id = v.store_id and parent.id = follows.parent_id
     join content c on c.store_id = parent.store_id and c.id = parent.content_id
     where v.store_id = $1 and v.id = $2`,
    [STORE, versionId],
  );

/** All versions of all lines of a file, in the order in which they were made. */
export const versionsOfFile = (client: Db, fileId: string): Promise<VersionRow[]> =>
  many<VersionRow>(client, `${versionSelect} where v.store_id = $1 and v.file_id = $2 order by v.made_at`, [
    STORE,
    fileId,
  ]);

export async function versionRow(id: string, client: Db = db()): Promise<VersionRow> {
  const row = await one<VersionRow>(client, `${versionSelect} where v.store_id = $1 and v.id = $2`, [STORE, id]);
  const found = row ?? (await proposedRow(id, client));
  if (!found) throw notFound('version');
  return found;
}

/** What somebody is about to do, as the version that it would become. */
const proposedRow = (id: string, client: Db): Promise<VersionRow | undefined> =>
  one<VersionRow>(
    client,
    `select p.id, p.file_id, onto.number + 1 as number, p.line_id, l.name as line, 'check-in' as kind, null as title, '' as description, false as starting,
       '' as note, maker.id as by_id, maker.name as by_name, p.made_at, c.size, c.hash, c.format, p.upload_name,
       null as source_id, null as source_role, null as source_file_id, null as source_file, null as source_number, onto.id as parent_id, null as set_number,
       p.content_id, onto.content_id as parent_content_id, null as summary
     from proposal p
     join line l on l.id = p.line_id
     join person maker on maker.id = p.person_id
     join version onto on onto.store_id = $1 and onto.id = p.onto_id
     join content c on c.store_id = $1 and c.id = p.content_id
     where p.store_id = $1 and p.id = $2`,
    [STORE, id],
  );

/** A line by its id, or by its position among the lines of the file. */
export type LineRef = string | number;

const lineIs = (line: LineRef, parameter: string): string =>
  typeof line === 'number' ? `l.position = ${parameter}` : `l.id = ${parameter}`;

export interface Newest {
  readonly id: string;
  readonly number: number;
  readonly content_id: string;
  readonly line_id: string;
  readonly position: number;
}

export const newestOf = (client: Db, fileId: string, line: LineRef = 0): Promise<Newest | undefined> =>
  one<Newest>(
    client,
    `select v.id, v.number, v.content_id, v.line_id, l.position
     from line l join version v on v.store_id = $1 and v.line_id = l.id
     where l.file_id = $2 and ${lineIs(line, '$3')} order by v.number desc limit 1`,
    [STORE, fileId, line],
  );

/** Versions of a line with numbers in a window, oldest first. */
export const versionsOfLine = (client: Db, lineId: string, from: number, to: number): Promise<VersionRow[]> =>
  many<VersionRow>(
    client,
    `${versionSelect} where v.store_id = $1 and v.line_id = $2 and v.number between $3 and $4 order by v.number`,
    [STORE, lineId, from, to],
  );

/** Columns of the rail, each packed into one text. */
export interface RailRow {
  readonly ids: string | null;
  readonly numbers: string | null;
  readonly at: string | null;
  readonly kinds: string | null;
  /** Places in the list of people. */
  readonly by: string | null;
}

export const railRow = (
  client: Db,
  lineId: string,
  oldest: number,
  people: readonly string[],
): Promise<RailRow | undefined> =>
  one<RailRow>(
    client,
    `select string_agg(id::text, ',') as ids, string_agg(number::text, ',') as numbers,
       string_agg(extract(epoch from made_at)::bigint::text, ',') as at, string_agg(left(kind, 1), '') as kinds,
       string_agg((array_position($4::uuid[], made_by) - 1)::text, ',') as by
     from (
       select id, number, made_at, kind, made_by from version
       where store_id = $1 and line_id = $2 and number >= $3 order by number
     ) in_order`,
    [STORE, lineId, oldest, people],
  );

/** The other lines of a file, each in the columns of the rail. */
export const laneRows = (
  client: Db,
  fileId: string,
  besides: string,
  people: readonly string[],
): Promise<(RailRow & { line_id: string })[]> =>
  many<RailRow & { line_id: string }>(
    client,
    `select line_id, string_agg(id::text, ',') as ids, string_agg(number::text, ',') as numbers,
       string_agg(extract(epoch from made_at)::bigint::text, ',') as at, string_agg(left(kind, 1), '') as kinds,
       string_agg((array_position($4::uuid[], made_by) - 1)::text, ',') as by
     from (
       select v.line_id, v.id, v.number, v.made_at, v.kind, v.made_by from line l
       join version v on v.store_id = $1 and v.line_id = l.id
       where l.file_id = $2 and l.id <> $3 order by v.number
     ) in_order group by line_id`,
    [STORE, fileId, besides, people],
  );

export const peopleByAge = (client: Db): Promise<{ id: string; name: string }[]> =>
  many(client, 'select id, name from person order by created_at');

export interface LineRow {
  readonly id: string;
  readonly position: number;
  readonly name: string;
  readonly from_id: string | null;
  readonly from_number: number | null;
  readonly closed_at: Date | null;
}

/** The lines of a file, the main line first; `branches` false: that one alone. */
export const linesOf = (client: Db, fileId: string, branches: boolean): Promise<LineRow[]> =>
  many<LineRow>(
    client,
    `select l.id, l.position, l.name, l.closed_at, v.id as from_id, v.number as from_number
     from line l left join version v on v.store_id = $1 and v.id = l.from_id
     where l.file_id = $2 and (l.position = 0 or $3) order by l.position`,
    [STORE, fileId, branches],
  );

export interface SpecialRow {
  readonly id: string;
  readonly title: string | null;
  readonly source_id: string | null;
}

/** Versions that are more than a step: keepers, and those that went on from an older one. */
export const specialVersions = (client: Db, lineId: string, oldest: number): Promise<SpecialRow[]> =>
  many<SpecialRow>(
    client,
    `select v.id, v.title, source.parent_id as source_id
     from version v
     left join version_parent source
       on source.store_id = v.store_id and source.version_id = v.id and source.role <> 'follows'
     where v.store_id = $1 and v.line_id = $2 and v.number >= $3 and (v.title is not null or source.parent_id is not null)
     order by v.number`,
    [STORE, lineId, oldest],
  );

export interface FileState {
  readonly name: string;
  readonly project_id: string;
  readonly folder_id: string | null;
  readonly deleted_in: string | null;
}

/** Locks the file's row until the end of the transaction. */
export const lockedFile = (client: Db, fileId: string): Promise<FileState | undefined> =>
  one<FileState>(client, 'select name, project_id, folder_id, deleted_in from file where id = $1 for update', [fileId]);

export async function insertLine(
  client: Db,
  fileId: string,
  name: string,
  position: number,
  fromId: string | null,
): Promise<string> {
  const row = await one<{ id: string }>(
    client,
    'insert into line (file_id, name, position, from_id) values ($1, $2, $3, $4) returning id',
    [fileId, name, position, fromId],
  );
  if (!row) throw new Error('a line was not inserted');
  return row.id;
}

export async function countVersion(client: Db, fileId: string, at: Date | undefined, newFiles: number): Promise<void> {
  await client.query(
    `update project set files = files + $3, changed_at = greatest(changed_at, coalesce($2, now()))
     where id = (select project_id from file where id = $1)`,
    [fileId, at ?? null, newFiles],
  );
}

/** What a version goes on from, and as what. */
export interface Parent {
  readonly id: string;
  readonly role: 'follows' | SourceRole;
}

export interface VersionValues {
  readonly fileId: string;
  readonly lineId: string;
  readonly number: number;
  readonly contentId: string;
  readonly kind: Version['kind'];
  readonly note: string;
  readonly title: string | null;
  readonly uploadName: string;
  readonly by: string;
  readonly at: Date | undefined;
  readonly setId: string;
}

export async function insertVersionRow(client: Db, v: VersionValues): Promise<string> {
  const row = await one<{ id: string }>(
    client,
    `insert into version (store_id, file_id, line_id, number, content_id, kind, note, title, upload_name, made_by, made_at, set_id, titled_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, coalesce($11, now()), $12, case when $8::text is not null then coalesce($11, now()) end) returning id`,
    [
      STORE,
      v.fileId,
      v.lineId,
      v.number,
      v.contentId,
      v.kind,
      v.note,
      v.title,
      v.uploadName,
      v.by,
      v.at ?? null,
      v.setId,
    ],
  );
  if (!row) throw new Error('a version was not inserted');
  return row.id;
}

export interface Titling {
  /** Null takes it away, with all that it stands for. */
  readonly title: string | null;
  readonly description: string;
  readonly starting: boolean;
}

export async function updateTitle(client: Client, versionId: string, titling: Titling): Promise<void> {
  await client.query(
    `update version set title = $3, description = $4, starting = $5,
       titled_at = case when $3::text is not null then coalesce(titled_at, now()) end
     where store_id = $1 and id = $2`,
    [STORE, versionId, titling.title, titling.title === null ? '' : titling.description, titling.starting],
  );
}

/** Of these, those without a title get one. Gives their files. */
export const titleUntitled = (
  client: Client,
  versionIds: readonly string[],
  { title, description }: Pick<Titling, 'description'> & { readonly title: string },
): Promise<{ file_id: string }[]> =>
  many(
    client,
    `update version set title = $3, description = $4, titled_at = now()
     where store_id = $1 and id = any($2) and title is null returning file_id`,
    [STORE, versionIds, title, description],
  );

/** At most two. */
export async function insertParents(client: Db, versionId: string, parents: readonly Parent[]): Promise<void> {
  await client.query(
    `insert into version_parent (store_id, version_id, place, parent_id, role)
     select $1, $2, place - 1, parent, role from unnest($3::uuid[], $4::text[]) with ordinality as t(parent, role, place)`,
    [STORE, versionId, parents.map((p) => p.id), parents.map((p) => p.role)],
  );
}

/** Id of the line on which a version of a file stands. */
export async function lineOfVersion(client: Db, fileId: string, versionId: string): Promise<string | undefined> {
  const row = await one<{ line_id: string }>(
    client,
    'select line_id from version where store_id = $1 and file_id = $2 and id = $3',
    [STORE, fileId, versionId],
  );
  return row?.line_id;
}

export const versionPlace = (client: Db, versionId: string): Promise<{ number: number; file_id: string } | undefined> =>
  one(client, 'select number, file_id from version where store_id = $1 and id = $2', [STORE, versionId]);

/** Who took somebody's check-out of a file over, and why. */
export const takenOverFrom = (
  client: Db,
  lineId: string,
  personId: string,
): Promise<{ name: string; reason: string } | undefined> =>
  one(
    client,
    `select p.name, t.reason from taken_over t join person p on p.id = t.by_id
     where t.line_id = $1 and t.person_id = $2`,
    [lineId, personId],
  );

/** What was taken over is settled: the person has gone on beside the main line. */
export async function settleTakenOver(client: Db, fileId: string, personId: string): Promise<void> {
  await client.query('delete from taken_over where file_id = $1 and person_id = $2', [fileId, personId]);
}

export const nameOfFile = (client: Db, file_id: string): Promise<{ name: string } | undefined> =>
  one(client, 'select name from file where id = $1', [file_id]);

/** Versions that are followed through at most: each is read and compared. */
export const MOST_VERSIONS = 60;

export const wayBetween = (client: Db, to: string, from: string): Promise<(VersionRow & { step: number })[]> =>
  many<VersionRow & { step: number }>(
    client,
    `
    with recursive back as (
      select $2::uuid as id, 0 as step
      union all
      select p.parent_id, back.step + 1 from version_parent p join back on p.store_id = $1 and p.version_id = back.id and p.role = 'follows'
      where back.id <> $3 and back.step < $4
    )
    ${versionSelect.replace('select ', 'select back.step, ')} join back on back.id = v.id where v.store_id = $1 order by back.step desc`,
    [STORE, to, from, MOST_VERSIONS],
  );
