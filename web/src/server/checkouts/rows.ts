/** Rows of check-outs, of who asks for one, and of those that were taken over. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';

export const requestsFor = (
  client: Db,
  fileIds: readonly string[],
): Promise<{ file_id: string; id: string; name: string; reason: string; at: Date }[]> =>
  many(
    client,
    `
    select r.file_id, p.id, p.name, r.reason, r.at from checkout_request r join person p on p.id = r.person_id where r.file_id = any($1) order by r.at`,
    [fileIds],
  );

const heldSelect = `
  select c.file_id, f.name as file_name, f.project_id, p.id as by_id, p.name as by_name, c.at, c.desk, c.number, source.number as source
  from checkout c join file f on f.id = c.file_id join person p on p.id = c.person_id
  left join version source on source.store_id = ${STORE} and source.id = c.source_id`;

export interface Held {
  file_id: string;
  file_name: string;
  project_id: string;
  by_id: string;
  by_name: string;
  at: Date;
  desk: string;
  number: number;
  source: number | null;
}

export const heldRow = (client: Db, fileId: string): Promise<Held | undefined> =>
  one<Held>(client, `${heldSelect} where c.file_id = $1`, [fileId]);

export interface Over {
  id: string;
  name: string;
  reason: string;
  at: Date;
  number: number;
  version_id: string;
}

export const takenOverRow = (client: Db, fileId: string, personId: string): Promise<Over | undefined> =>
  one<Over>(
    client,
    `
      select p.id, p.name, t.reason, t.at, t.number, v.id as version_id
      from taken_over t join person p on p.id = t.by_id join line l on l.file_id = t.file_id and l.position = 0
      join version v on v.store_id = ${STORE} and v.line_id = l.id and v.number = t.number
      where t.file_id = $1 and t.person_id = $2`,
    [fileId, personId],
  );

export const placesOfFiles = (
  client: Db,
  ids: readonly string[],
): Promise<{ project_id: string; folder_id: string | null }[]> =>
  many(client, 'select distinct project_id, folder_id from file where id = any($1)', [ids]);

export const lockFilesToTake = (
  client: Db,
  ids: readonly string[],
): Promise<
  {
    id: string;
    name: string;
    project_id: string;
    deleted_in: string | null;
    number: number;
  }[]
> =>
  many(
    client,
    `
      select f.id, f.name, f.project_id, f.deleted_in, v.number from file f join line l on l.file_id = f.id and l.position = 0
      cross join lateral (select number from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
      where f.id = any($1) order by f.id for share of f`,
    [ids, STORE],
  );

export const insertCheckouts = (
  client: Db,
  fileIds: readonly string[],
  personId: string,
  desk: string,
  numbers: readonly number[],
): Promise<{ file_id: string }[]> =>
  many(
    client,
    `
      insert into checkout (file_id, person_id, desk, number) select f, $2, $3, n from unnest($1::uuid[], $4::int[]) as t(f, n) order by f
      on conflict (file_id) do nothing returning file_id`,
    [fileIds, personId, desk, numbers],
  );

export const heldByOthers = (client: Db, ids: readonly string[], personId: string): Promise<Held[]> =>
  many<Held>(client, `${heldSelect} where c.file_id = any($1) and c.person_id <> $2`, [ids, personId]);

export const fileOfVersion = (client: Db, from: string): Promise<{ file_id: string } | undefined> =>
  one(client, 'select file_id from version where store_id = $1 and id = $2', [STORE, from]);

export async function goOnFrom(client: Db, fileId: string | undefined, versionId: string): Promise<void> {
  await client.query('update checkout set source_id = $2 where file_id = $1', [fileId, versionId]);
}

export async function settleTakenOvers(client: Db, personId: string, fileIds: readonly string[]): Promise<void> {
  await client.query('delete from taken_over where person_id = $1 and file_id = any($2)', [personId, fileIds]);
}

export const heldOf = (client: Db, ids: readonly string[]): Promise<Held[]> =>
  many<Held>(client, `${heldSelect} where c.file_id = any($1)`, [ids]);

export const dropCheckouts = (
  client: Db,
  personId: string,
  fileIds: readonly string[],
): Promise<{ file_id: string; name: string; project_id: string }[]> =>
  many(
    client,
    `
      delete from checkout c using file f where f.id = c.file_id and c.person_id = $1 and c.file_id = any($2) returning c.file_id, f.name, f.project_id`,
    [personId, fileIds],
  );

export const sourceRow = (client: Db, fileId: string, by: string): Promise<{ source_id: string | null } | undefined> =>
  one(client, 'select source_id from checkout where file_id = $1 and person_id = $2', [fileId, by]);

export const lockHeld = (client: Db, fileId: string): Promise<Held | undefined> =>
  one<Held>(client, `${heldSelect} where c.file_id = $1 for update of c`, [fileId]);

export const nameOfFile = (client: Db, fileId: string): Promise<{ name: string } | undefined> =>
  one(client, 'select name from file where id = $1', [fileId]);

export async function putRequest(client: Db, fileId: string, personId: string, reason: string): Promise<void> {
  await client.query(
    'insert into checkout_request (file_id, person_id, reason) values ($1, $2, $3) on conflict (file_id, person_id) do update set reason = excluded.reason, at = now()',
    [fileId, personId, reason],
  );
}

export async function putTakenOver(
  client: Db,
  fileId: string,
  from: string,
  by: string,
  reason: string,
  number: number,
): Promise<void> {
  await client.query(
    `
      insert into taken_over (file_id, person_id, by_id, reason, number) values ($1, $2, $3, $4, $5)
      on conflict (file_id, person_id) do update set by_id = excluded.by_id, reason = excluded.reason, number = excluded.number, at = now()`,
    [fileId, from, by, reason, number],
  );
}

export async function handOver(client: Db, fileId: string, personId: string): Promise<void> {
  await client.query(`update checkout set person_id = $2, desk = '', at = now() where file_id = $1`, [
    fileId,
    personId,
  ]);
}

export async function dropRequests(client: Db, fileId: string): Promise<void> {
  await client.query('delete from checkout_request where file_id = $1', [fileId]);
}

export async function forgetSource(client: Db, fileId: string, personId: string): Promise<void> {
  await client.query('update checkout set source_id = null where file_id = $1 and person_id = $2', [fileId, personId]);
}

export async function dropOwnCheckout(client: Db, fileId: string, personId: string): Promise<void> {
  await client.query('delete from checkout where file_id = $1 and person_id = $2', [fileId, personId]);
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
