/** Rows of check-outs, of who asks for one, and of those that were taken over. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';

export const requestsFor = (
  client: Db,
  lineIds: readonly string[],
): Promise<{ line_id: string; id: string; name: string; reason: string; at: Date }[]> =>
  many(
    client,
    `
    select r.line_id, p.id, p.name, r.reason, r.at from checkout_request r join person p on p.id = r.person_id where r.line_id = any($1) order by r.at`,
    [lineIds],
  );

/** The line that is meant; the main line where none is said. Undefined where the file has no such line. */
export const lineRow = (
  client: Db,
  fileId: string,
  line: string | undefined,
): Promise<{ id: string; closed: boolean } | undefined> =>
  one(
    client,
    `select id, closed_at is not null as closed from line where file_id = $1 and (id = $2 or ($2::uuid is null and position = 0))`,
    [fileId, line ?? null],
  );

const heldSelect = `
  select c.file_id, c.line_id, l.name as line, l.position as line_position, f.name as file_name, f.project_id, p.id as by_id, p.name as by_name, c.at, c.desk, c.number, source.number as source
  from checkout c join file f on f.id = c.file_id join line l on l.id = c.line_id join person p on p.id = c.person_id
  left join version source on source.store_id = ${STORE} and source.id = c.source_id`;

export interface Held {
  file_id: string;
  line_id: string;
  line: string;
  line_position: number;
  file_name: string;
  project_id: string;
  by_id: string;
  by_name: string;
  at: Date;
  desk: string;
  number: number;
  source: number | null;
}

export const heldRow = (client: Db, lineId: string): Promise<Held | undefined> =>
  one<Held>(client, `${heldSelect} where c.line_id = $1`, [lineId]);

/** Lines of a file that somebody else has. */
export const heldOfFileByOthers = (client: Db, fileId: string, personId: string): Promise<Held[]> =>
  many<Held>(client, `${heldSelect} where c.file_id = $1 and c.person_id <> $2 order by l.position`, [
    fileId,
    personId,
  ]);

export interface Over {
  id: string;
  name: string;
  reason: string;
  at: Date;
  number: number;
  version_id: string;
}

export const takenOverRow = (client: Db, lineId: string, personId: string): Promise<Over | undefined> =>
  one<Over>(
    client,
    `
      select p.id, p.name, t.reason, t.at, t.number, v.id as version_id
      from taken_over t join person p on p.id = t.by_id
      join version v on v.store_id = ${STORE} and v.line_id = t.line_id and v.number = t.number
      where t.line_id = $1 and t.person_id = $2`,
    [lineId, personId],
  );

export const placesOfFiles = (
  client: Db,
  ids: readonly string[],
): Promise<{ project_id: string; folder_id: string | null }[]> =>
  many(client, 'select distinct project_id, folder_id from file where id = any($1)', [ids]);

export const lockFilesToTake = (
  client: Db,
  ids: readonly string[],
  line: string | undefined,
): Promise<
  {
    id: string;
    line_id: string;
    line: string;
    closed: boolean;
    name: string;
    project_id: string;
    deleted_in: string | null;
    number: number;
  }[]
> =>
  many(
    client,
    `
      select f.id, l.id as line_id, l.name as line, l.closed_at is not null as closed, f.name, f.project_id, f.deleted_in, v.number
      from file f join line l on l.file_id = f.id and (l.id = $3 or ($3::uuid is null and l.position = 0))
      cross join lateral (select number from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
      where f.id = any($1) order by f.id for share of f`,
    [ids, STORE, line ?? null],
  );

export const insertCheckouts = (
  client: Db,
  lines: readonly { readonly id: string; readonly line_id: string; readonly number: number }[],
  personId: string,
  desk: string,
): Promise<{ line_id: string }[]> =>
  many(
    client,
    `
      insert into checkout (file_id, person_id, desk, number, line_id) select f, $2, $3, n, l
      from unnest($1::uuid[], $4::int[], $5::uuid[]) as t(f, n, l) order by f
      on conflict (line_id) do nothing returning line_id`,
    [lines.map((l) => l.id), personId, desk, lines.map((l) => l.number), lines.map((l) => l.line_id)],
  );

export const heldByOthers = (client: Db, lineIds: readonly string[], personId: string): Promise<Held[]> =>
  many<Held>(client, `${heldSelect} where c.line_id = any($1) and c.person_id <> $2`, [lineIds, personId]);

export const fileOfVersion = (client: Db, from: string): Promise<{ file_id: string } | undefined> =>
  one(client, 'select file_id from version where store_id = $1 and id = $2', [STORE, from]);

export async function goOnFrom(client: Db, lineId: string | undefined, versionId: string): Promise<void> {
  await client.query('update checkout set source_id = $2 where line_id = $1', [lineId, versionId]);
}

export async function settleTakenOvers(client: Db, personId: string, lineIds: readonly string[]): Promise<void> {
  await client.query('delete from taken_over where person_id = $1 and line_id = any($2)', [personId, lineIds]);
}

export const heldOf = (client: Db, lineIds: readonly string[]): Promise<Held[]> =>
  many<Held>(client, `${heldSelect} where c.line_id = any($1)`, [lineIds]);

export const dropCheckouts = (
  client: Db,
  personId: string,
  fileIds: readonly string[],
  line: string | undefined,
): Promise<{ file_id: string; name: string; project_id: string }[]> =>
  many(
    client,
    `
      delete from checkout c using file f, line l where f.id = c.file_id and l.id = c.line_id and c.person_id = $1 and c.file_id = any($2)
        and (l.id = $3 or ($3::uuid is null and l.position = 0)) returning c.file_id, f.name, f.project_id`,
    [personId, fileIds, line ?? null],
  );

/** All that somebody has, on whatever line. */
export const dropAllCheckouts = (
  client: Db,
  personId: string,
): Promise<{ file_id: string; name: string; project_id: string }[]> =>
  many(
    client,
    'delete from checkout c using file f where f.id = c.file_id and c.person_id = $1 returning c.file_id, f.name, f.project_id',
    [personId],
  );

export const sourceRow = (client: Db, lineId: string, by: string): Promise<{ source_id: string | null } | undefined> =>
  one(client, 'select source_id from checkout where line_id = $1 and person_id = $2', [lineId, by]);

export const lockHeld = (client: Db, lineId: string): Promise<Held | undefined> =>
  one<Held>(client, `${heldSelect} where c.line_id = $1 for update of c`, [lineId]);

export const nameOfFile = (client: Db, fileId: string): Promise<{ name: string } | undefined> =>
  one(client, 'select name from file where id = $1', [fileId]);

export async function putRequest(client: Db, lineId: string, personId: string, reason: string): Promise<void> {
  await client.query(
    'insert into checkout_request (line_id, person_id, reason) values ($1, $2, $3) on conflict (line_id, person_id) do update set reason = excluded.reason, at = now()',
    [lineId, personId, reason],
  );
}

export async function putTakenOver(
  client: Db,
  { file_id: fileId, line_id: lineId }: Pick<Held, 'file_id' | 'line_id'>,
  from: string,
  by: string,
  reason: string,
  number: number,
): Promise<void> {
  await client.query(
    `
      insert into taken_over (file_id, person_id, by_id, reason, number, line_id) values ($1, $2, $3, $4, $5, $6)
      on conflict (line_id, person_id) do update set by_id = excluded.by_id, reason = excluded.reason, number = excluded.number, at = now()`,
    [fileId, from, by, reason, number, lineId],
  );
}

export async function handOver(client: Db, lineId: string, personId: string): Promise<void> {
  await client.query(`update checkout set person_id = $2, desk = '', at = now() where line_id = $1`, [
    lineId,
    personId,
  ]);
}

export async function dropRequests(client: Db, lineId: string): Promise<void> {
  await client.query('delete from checkout_request where line_id = $1', [lineId]);
}

export async function forgetSource(client: Db, lineId: string, personId: string): Promise<void> {
  await client.query('update checkout set source_id = null where line_id = $1 and person_id = $2', [lineId, personId]);
}

export async function dropOwnCheckout(client: Db, lineId: string, personId: string): Promise<void> {
  await client.query('delete from checkout where line_id = $1 and person_id = $2', [lineId, personId]);
}

/**
 * Check-outs that a person may see, the latest first. What they hold themselves is listed whatever else is closed: it
 * can be given up.
 */
export function heldRows(
  client: Db,
  personId: string,
  { project, mine }: { readonly project: string | undefined; readonly mine: boolean },
  scope: Scope,
): Promise<Held[]> {
  const values: unknown[] = [project ?? null, mine, personId];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<Held>(
    client,
    `${heldSelect} where ($1::uuid is null or f.project_id = $1) and (not $2 or c.person_id = $3)
       and (c.person_id = $3 or ${seen}) order by c.at desc limit 2000`,
    values,
  );
}
