import { createHash, randomBytes } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { z } from 'zod';
import type { firstAdministratorSchema, newPersonSchema, Person } from '../../contract/api.ts';
import { config } from '../config.ts';
import { db, many, one, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { actsInSession } from '../ledger/origin.ts';
import { Problem } from '../problem.ts';
import { personOfToken } from './tokens.ts';
import { hashPassword, passwordMatches } from './passwords.ts';
import { require } from './permissions.ts';

const holder = globalThis as typeof globalThis & { ovrelSignIns?: RateLimiterPostgres };

const limiter = (): RateLimiterPostgres =>
  (holder.ovrelSignIns ??= new RateLimiterPostgres({
    storeClient: db(),
    tableName: 'sign_in_attempt',
    tableCreated: true,
    points: config.signInAttempts,
    duration: 15 * 60,
  }));

const digest = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Checks the password and opens a session; gives its token. Wrong attempts are counted by sign-in name. */
export async function signIn(email: string, password: string): Promise<{ token: string; person: Person }> {
  const name = email.trim().toLowerCase();
  const key = createHash('sha256').update(name).digest('hex');
  await limiter()
    .consume(key)
    .catch((refused: unknown) => {
      if (!(refused instanceof RateLimiterRes)) throw refused;
      const minutes = Math.max(1, Math.ceil(refused.msBeforeNext / 60_000));
      throw new Problem(
        429,
        'too-many-attempts',
        `Too many attempts for this sign-in name. Try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}.`,
      );
    });
  const row = await one<Person & { password_hash: string }>(
    db(),
    'select id, name, email, role, password_hash from person where lower(email) = $1',
    [name],
  );
  if (!(await passwordMatches(row?.password_hash, password)) || !row) {
    throw new Problem(
      401,
      'wrong-sign-in',
      'The e-mail address and the password do not belong together. Check both and try again.',
    );
  }
  await limiter().delete(key);
  const { password_hash: _, ...person } = row;
  await transaction((client) => record(client, [{ act: 'signed in', by: person, subject: person.name }]));
  return { token: await openSession(person.id), person };
}

async function openSession(personId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db().query(
    `insert into session (token_hash, person_id, expires_at) values ($1, $2, now() + make_interval(days => $3))`,
    [digest(token), personId, config.sessionDays],
  );
  await db().query('delete from session where expires_at < now()');
  return token;
}

export async function signOut(token: string): Promise<void> {
  await db().query('delete from session where token_hash = $1', [digest(token)]);
}

/** Who asks: by the cookie of a session, or a program by an access token. What a token may not do is refused. */
export async function callerOf({
  cookie,
  authorization,
  changes,
}: {
  cookie: string | undefined;
  authorization: string | null;
  changes: boolean;
}): Promise<Person | undefined> {
  const token = /^Bearer (\S+)$/i.exec(authorization ?? '')?.[1];
  return token ? personOfToken(token, changes) : personOf(cookie);
}

/** Whose session this is; undefined for unknown and expired tokens. */
export async function personOf(token: string | undefined): Promise<Person | undefined> {
  if (!token) return undefined;
  const hash = digest(token);
  const person = await one<Person>(
    db(),
    `
    select p.id, p.name, p.email, p.role
    from session s join person p on p.id = s.person_id
    where s.token_hash = $1 and s.expires_at > now()`,
    [hash],
  );
  if (person) actsInSession(hash);
  return person;
}

export async function isEmptyInstallation(): Promise<boolean> {
  return (await one(db(), 'select 1 from person limit 1')) === undefined;
}

/** Makes the first person, once. */
export async function makeFirstAdministrator(
  input: z.infer<typeof firstAdministratorSchema>,
): Promise<{ token: string; person: Person }> {
  const hash = await hashPassword(input.password);
  const person = await transaction(async (client) => {
    await client.query('lock table person in exclusive mode');
    if (await one(client, 'select 1 from person limit 1'))
      throw new Problem(409, 'already-set-up', 'This installation already has an administrator. Sign in instead.');
    const made = await insertPerson(client, { ...input, role: 'administrator' }, hash);
    await record(client, [{ act: 'added a person', by: made, subject: `${made.name}, the first administrator` }]);
    return made;
  });
  return { token: await openSession(person.id), person };
}

export async function makePerson(by: Person, input: z.infer<typeof newPersonSchema>): Promise<Person> {
  require(by, 'manage people');
  const hash = await hashPassword(input.password);
  return transaction(async (client) => {
    const made = await insertPerson(client, input, hash);
    await record(client, [{ act: 'added a person', by, subject: `${made.name}, ${made.role}` }]);
    return made;
  }).catch((error: { code?: string }) => {
    if (error.code === '23505') throw new Problem(409, 'name-taken', `Someone already signs in as ${input.email}.`);
    throw error;
  });
}

async function insertPerson(
  client: Parameters<typeof one>[0],
  { name, email, role }: z.infer<typeof newPersonSchema>,
  hash: string,
): Promise<Person> {
  const person = await one<Person>(
    client,
    'insert into person (name, email, role, password_hash) values ($1, $2, $3, $4) returning id, name, email, role',
    [name, email, role, hash],
  );
  if (!person) throw new Error('a person was not inserted');
  return person;
}

export async function listPeople(by: Person): Promise<Person[]> {
  require(by, 'manage people');
  return many<Person>(db(), 'select id, name, email, role from person order by name');
}
