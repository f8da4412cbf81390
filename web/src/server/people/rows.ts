/** Rows of people, their sessions and their tokens. */
import { many, one, type Db } from '../db/pool.ts';
import { type Person } from '../../contract/api.ts';

/** A token that holds now, and goes on to until the end of the transaction. */
export const holdsToken = async (client: Db, tokenId: string): Promise<boolean> =>
  (await one(
    client,
    'select 1 from access_token where id = $1 and revoked_at is null and expires_at > now() for share',
    [tokenId],
  )) !== undefined;

/** The same, for now only. */
export const hasToken = async (client: Db, tokenId: string): Promise<boolean> =>
  (await one(client, 'select 1 from access_token where id = $1 and revoked_at is null and expires_at > now()', [
    tokenId,
  ])) !== undefined;

export const hasSession = async (client: Db, hash: Buffer): Promise<boolean> =>
  (await one(client, 'select 1 from session where token_hash = $1 and expires_at > now()', [hash])) !== undefined;

/** A session that is open now, and goes on to be until the end of the transaction. */
export const holdsSession = async (client: Db, hash: Buffer): Promise<boolean> =>
  (await one(client, 'select 1 from session where token_hash = $1 and expires_at > now() for share', [hash])) !==
  undefined;

export async function insertSession(
  client: Db,
  hash: Buffer,
  personId: string,
  days: number,
  origin: string,
): Promise<void> {
  await client.query(
    `
    insert into session (token_hash, person_id, expires_at, origin)
    values ($1, $2, now() + make_interval(days => $3), $4)`,
    [hash, personId, days, origin],
  );
}

export async function dropEndedSessions(client: Db, idleDays: number): Promise<void> {
  await client.query('delete from session where expires_at < now() or seen_at < now() - make_interval(days => $1)', [
    idleDays,
  ]);
}

export async function dropSession(client: Db, hash: Buffer): Promise<void> {
  await client.query('delete from session where token_hash = $1', [hash]);
}

/** Somebody in a session; `stale` where it is a while since the session was seen. */
export const personInSession = (
  client: Db,
  hash: Buffer,
  idleDays: number,
): Promise<(Person & { temporary: boolean; stale: boolean }) | undefined> =>
  one<Person & { temporary: boolean; stale: boolean }>(
    client,
    `
    select p.id, p.name, p.email, p.role, p.password_is_temporary as temporary,
      s.seen_at < now() - interval '1 minute' as stale
    from session s join person p on p.id = s.person_id
    where s.token_hash = $1 and s.expires_at > now() and s.seen_at > now() - make_interval(days => $2)
      and p.state = 'active'`,
    [hash, idleDays],
  );

export async function noteSeen(client: Db, hash: Buffer): Promise<void> {
  await client.query('update session set seen_at = now() where token_hash = $1', [hash]);
}

export const anybody = (client: Db): Promise<{ there: number } | undefined> =>
  one(client, 'select 1 from person limit 1');

export async function lockPeople(client: Db): Promise<void> {
  await client.query('lock table person in exclusive mode');
}

export const insertPersonRow = (
  client: Db,
  name: string,
  email: string,
  role: string,
  hash: string,
): Promise<Person | undefined> =>
  one<Person>(
    client,
    'insert into person (name, email, role, password_hash) values ($1, $2, $3, $4) returning id, name, email, role',
    [name, email, role, hash],
  );

export const preferenceRows = (client: Db, personId: string): Promise<{ name: string; value: unknown }[]> =>
  many(client, 'select name, value from preference where person_id = $1', [personId]);

export async function putPreference(client: Db, personId: string, value: string): Promise<void> {
  await client.query(
    `
    insert into preference (person_id, name, value) values ($1, 'ignore', $2)
    on conflict (person_id, name) do update set value = excluded.value, set_at = now()`,
    [personId, value],
  );
}

export const knowsBrowser = async (client: Db, personId: string, hash: Buffer): Promise<boolean> =>
  (await one(client, 'select 1 from known_browser where token_hash = $1 and person_id = $2', [hash, personId])) !==
  undefined;

export async function insertKnownBrowser(client: Db, hash: Buffer, personId: string): Promise<void> {
  await client.query('insert into known_browser (token_hash, person_id) values ($1, $2)', [hash, personId]);
}
