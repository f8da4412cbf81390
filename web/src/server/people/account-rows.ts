/** Rows of what an account consists of: state, password, second factor, sessions, recovery codes. */
import type { Person } from '../../contract/api.ts';
import type { Member } from '../../contract/account.ts';
import { many, one, type Db } from '../db/pool.ts';

export interface AccountRow extends Person {
  readonly state: 'active' | 'deactivated' | 'deleted';
  readonly password_hash: string;
  readonly password_set_at: Date;
  readonly password_is_temporary: boolean;
  readonly second_factor: string | null;
  /** Null until a code has proved it. */
  readonly second_factor_at: Date | null;
  readonly second_factor_step: string;
}

const accountSelect = `
  select id, name, email, role, state, password_hash, password_set_at, password_is_temporary,
    second_factor, second_factor_at, second_factor_step
  from person`;

export const accountByEmail = (client: Db, email: string): Promise<AccountRow | undefined> =>
  one<AccountRow>(client, `${accountSelect} where lower(email) = $1`, [email]);

export const accountRow = (client: Db, personId: string): Promise<AccountRow | undefined> =>
  one<AccountRow>(client, `${accountSelect} where id = $1 and state <> 'deleted'`, [personId]);

/** The same, kept as it is until the end of the transaction. */
export const lockAccount = (client: Db, personId: string): Promise<AccountRow | undefined> =>
  one<AccountRow>(client, `${accountSelect} where id = $1 and state <> 'deleted' for update`, [personId]);

interface MemberRow extends Person {
  readonly state: Member['state'];
  readonly second_factor: boolean;
  readonly temporary: boolean;
  readonly seen_at: Date | null;
  readonly sessions: number;
  readonly tokens: number;
}

export const memberRows = (client: Db, personId: string | null = null): Promise<MemberRow[]> =>
  many<MemberRow>(
    client,
    `
    select p.id, p.name, p.email, p.role, p.state, p.second_factor_at is not null as second_factor,
      p.password_is_temporary as temporary,
      (select max(s.seen_at) from session s where s.person_id = p.id and s.expires_at > now()) as seen_at,
      (select count(*)::int from session s where s.person_id = p.id and s.expires_at > now()) as sessions,
      (select count(*)::int from access_token t
       where t.person_id = p.id and t.revoked_at is null and t.expires_at > now()) as tokens
    from person p
    where p.state <> 'deleted' and ($1::uuid is null or p.id = $1)
    order by lower(p.name)`,
    [personId],
  );

export const otherAdministrators = async (client: Db, than: string): Promise<boolean> =>
  (await one(client, `select 1 from person where role = 'administrator' and state = 'active' and id <> $1 limit 1`, [
    than,
  ])) !== undefined;

export async function updatePerson(
  client: Db,
  personId: string,
  { name, role, state }: Pick<AccountRow, 'name' | 'role' | 'state'>,
): Promise<void> {
  await client.query('update person set name = $2, role = $3, state = $4 where id = $1', [personId, name, role, state]);
}

export async function updatePassword(client: Db, personId: string, hash: string, temporary: boolean): Promise<void> {
  await client.query(
    `update person set password_hash = $2, password_is_temporary = $3, password_set_at = now() where id = $1`,
    [personId, hash, temporary],
  );
}

/** Leaves the name, by which what they made is known; the address is free for somebody else. */
export async function emptyPerson(client: Db, personId: string): Promise<void> {
  await client.query(
    `
    update person set state = 'deleted', email = 'deleted ' || id, password_hash = '', second_factor = null,
      second_factor_at = null
    where id = $1`,
    [personId],
  );
}

export async function forgetPerson(client: Db, personId: string): Promise<void> {
  await client.query('delete from known_browser where person_id = $1', [personId]);
  await client.query('delete from preference where person_id = $1', [personId]);
  await client.query('delete from access where person_id = $1', [personId]);
  await client.query('delete from checkout_request where person_id = $1', [personId]);
  await client.query('delete from presence where person_id = $1', [personId]);
  await client.query('delete from recovery_code where person_id = $1', [personId]);
}

export interface SessionRow {
  readonly id: string;
  readonly token_hash: Buffer;
  readonly created_at: Date;
  readonly seen_at: Date;
  readonly origin: string;
}

export const sessionRows = (client: Db, personId: string): Promise<SessionRow[]> =>
  many<SessionRow>(
    client,
    `
    select id, token_hash, created_at, seen_at, origin from session
    where person_id = $1 and expires_at > now() order by seen_at desc`,
    [personId],
  );

/** Ends all sessions of somebody, but for one. Gives how many. */
export async function dropSessions(client: Db, personId: string, but: Buffer | undefined): Promise<number> {
  const { rowCount } = await client.query(
    'delete from session where person_id = $1 and ($2::bytea is null or token_hash <> $2)',
    [personId, but ?? null],
  );
  return rowCount ?? 0;
}

export const dropSessionById = async (client: Db, personId: string, sessionId: string): Promise<boolean> =>
  (await client.query('delete from session where person_id = $1 and id = $2', [personId, sessionId])).rowCount === 1;

/** Gives how many held until now. */
export async function revokeTokens(client: Db, personId: string): Promise<number> {
  const { rowCount } = await client.query(
    'update access_token set revoked_at = now() where person_id = $1 and revoked_at is null and expires_at > now()',
    [personId],
  );
  return rowCount ?? 0;
}

export async function dropKnownBrowsers(client: Db, personId: string): Promise<void> {
  await client.query('delete from known_browser where person_id = $1', [personId]);
}

export async function setSecondFactor(client: Db, personId: string, secret: string | null): Promise<void> {
  await client.query(
    'update person set second_factor = $2, second_factor_at = null, second_factor_step = 0 where id = $1',
    [personId, secret],
  );
}

export async function confirmSecondFactorRow(client: Db, personId: string): Promise<void> {
  await client.query('update person set second_factor_at = now() where id = $1', [personId]);
}

/** False where a code of this step, or a later one, has opened already. */
export const spendStep = async (client: Db, personId: string, step: number): Promise<boolean> =>
  (
    await client.query('update person set second_factor_step = $2 where id = $1 and second_factor_step < $2', [
      personId,
      step,
    ])
  ).rowCount === 1;

export async function replaceRecoveryCodes(client: Db, personId: string, hashes: readonly Buffer[]): Promise<void> {
  await client.query('delete from recovery_code where person_id = $1', [personId]);
  await client.query('insert into recovery_code (person_id, code_hash) select $1, unnest($2::bytea[])', [
    personId,
    hashes,
  ]);
}

export const spendRecoveryCode = async (client: Db, personId: string, hash: Buffer): Promise<boolean> =>
  (
    await client.query(
      'update recovery_code set used_at = now() where person_id = $1 and code_hash = $2 and used_at is null',
      [personId, hash],
    )
  ).rowCount === 1;

export const codesLeft = async (client: Db, personId: string): Promise<number> =>
  (
    await one<{ n: number }>(
      client,
      'select count(*)::int as n from recovery_code where person_id = $1 and used_at is null',
      [personId],
    )
  )?.n ?? 0;
