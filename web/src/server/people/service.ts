import { createHash, randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { firstAdministratorSchema, newPersonSchema, Person } from '../../contract/api.ts';
import { config } from '../config.ts';
import { db, one, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { actsFor, actsInSession } from '../ledger/origin.ts';
import { Problem } from '../problem.ts';
import { personOfToken } from './tokens.ts';
import { hashPassword, passwordMatches } from './passwords.ts';
import { countedFor, countWrong, forgetWrong, refusePaused, type From } from './attempts.ts';
import { require } from './permissions.ts';
import {
  personWithPassword,
  insertSession,
  dropEndedSessions,
  dropSession,
  personInSession,
  anybody,
  lockPeople,
  insertPersonRow,
  everybody,
  insertKnownBrowser,
  knowsBrowser,
} from './rows.ts';

const digest = (token: string): Buffer => createHash('sha256').update(token).digest();

/** What opens the door: a session, and where the browser was not known yet what makes it so. */
interface Opened {
  readonly token: string;
  readonly person: Person;
  readonly browser?: string;
}

/** Checks the password and opens a session. Wrong attempts are counted by where they come from. */
export async function signIn(
  email: string,
  password: string,
  { address, browser }: From = { address: '', browser: undefined },
): Promise<Opened> {
  const name = email.trim().toLowerCase();
  const row = await personWithPassword(db(), name);
  const isKnown = row !== undefined && browser !== undefined && (await knowsBrowser(db(), row.id, digest(browser)));
  const counted = countedFor(name, { address, browser: isKnown ? browser : undefined });
  await refusePaused(counted);
  if (!(await passwordMatches(row?.password_hash, password)) || !row) {
    await countWrong(counted);
    throw new Problem(
      401,
      'wrong-sign-in',
      'The e-mail address and the password do not belong together. Check both and try again.',
    );
  }
  await forgetWrong(counted);
  const { password_hash: _, ...person } = row;
  await transaction((client) => record(client, [{ act: 'signed in', by: person, subject: person.name }]));
  const opened = { token: await openSession(person.id), person };
  return isKnown ? opened : { ...opened, browser: await makeKnown(person.id) };
}

async function makeKnown(personId: string): Promise<string> {
  const browser = randomBytes(32).toString('base64url');
  await insertKnownBrowser(db(), digest(browser), personId);
  return browser;
}

async function openSession(personId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await insertSession(db(), digest(token), personId, config.sessionDays);
  await dropEndedSessions(db());
  return token;
}

export async function signOut(token: string): Promise<void> {
  await dropSession(db(), digest(token));
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
  const person = await personInSession(db(), hash);
  if (person) {
    actsInSession(hash);
    actsFor(person.id);
  }
  return person;
}

export async function isEmptyInstallation(): Promise<boolean> {
  return (await anybody(db())) === undefined;
}

/** Makes the first person, once. */
export async function makeFirstAdministrator(
  input: z.infer<typeof firstAdministratorSchema>,
): Promise<{ token: string; person: Person }> {
  const hash = await hashPassword(input.password);
  const person = await transaction(async (client) => {
    await lockPeople(client);
    if (await anybody(client))
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
  const person = await insertPersonRow(client, name, email, role, hash);
  if (!person) throw new Error('a person was not inserted');
  return person;
}

export async function listPeople(by: Person): Promise<Person[]> {
  require(by, 'manage people');
  return everybody(db());
}
