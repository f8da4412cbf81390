import { createHash, randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { firstAdministratorSchema, Person } from '../../contract/api.ts';
import { config } from '../config.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { actsFor, actsInSession, originNow } from '../ledger/origin.ts';
import { Problem } from '../problem.ts';
import { personOfToken } from './tokens.ts';
import { hashPassword, passwordMatches } from './passwords.ts';
import { countedFor, countWrong, forgetWrong, refusePaused, type From } from './attempts.ts';
import { accountByEmail, type AccountRow } from './account-rows.ts';
import { refuseCommon } from './common-passwords.ts';
import { opens } from './second-factor.ts';
import {
  insertSession,
  dropEndedSessions,
  dropSession,
  noteSeen,
  personInSession,
  anybody,
  lockPeople,
  insertPersonRow,
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

/** Checks the password, and the second factor of who has one, and opens a session. Wrong attempts are counted by where they come from. */
export async function signIn(
  email: string,
  password: string,
  { address, browser }: From = { address: '', browser: undefined },
  code?: string,
): Promise<Opened> {
  const name = email.trim().toLowerCase();
  const row = await accountByEmail(db(), name);
  const isKnown = row !== undefined && browser !== undefined && (await knowsBrowser(db(), row.id, digest(browser)));
  const counted = countedFor(name, { address, browser: isKnown ? browser : undefined });
  await refusePaused(counted);
  const account = await accountWith(row, password);
  if (!account) {
    await countWrong(counted);
    throw new Problem(
      401,
      'wrong-sign-in',
      'The e-mail address and the password do not belong together. Check both and try again.',
    );
  }
  if (account.second_factor_at && !(await secondFactorOpens(account, code))) {
    await countWrong(counted);
    throw new Problem(
      401,
      'wrong-code',
      'This code does not open, or not any more. Wait for the next one and try again.',
    );
  }
  await forgetWrong(counted);
  const person = { id: account.id, name: account.name, email: account.email, role: account.role };
  const token = await transaction(async (client) => {
    await record(client, [{ act: 'signed in', by: person, subject: person.name }]);
    return openSession(client, person.id);
  });
  return isKnown ? { token, person } : { token, person, browser: await makeKnown(person.id) };
}

/** The account that a password opens. Says that it is closed only to who knows the password. */
async function accountWith(row: AccountRow | undefined, password: string): Promise<AccountRow | undefined> {
  if (!(await passwordMatches(row?.password_hash, password)) || !row) return undefined;
  if (row.state === 'active') return row;
  throw new Problem(403, 'deactivated', 'Your account was deactivated. Ask an administrator to activate it again.');
}

async function secondFactorOpens(account: AccountRow, code: string | undefined): Promise<boolean> {
  if (code === undefined || code === '')
    throw new Problem(401, 'second-factor', 'Now the code of your authenticator app, or one of your recovery codes.');
  return transaction((client) => opens(client, account, code));
}

async function makeKnown(personId: string): Promise<string> {
  const browser = randomBytes(32).toString('base64url');
  await insertKnownBrowser(db(), digest(browser), personId);
  return browser;
}

async function openSession(client: Db, personId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await insertSession(client, digest(token), personId, config.sessionDays, originNow());
  await dropEndedSessions(client, config.idleDays);
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

/**
 * Whose session this is; undefined for unknown and ended ones. Throws a Problem for somebody who has to change their
 * password first, but where they do that (`early`).
 */
export async function personOf(
  token: string | undefined,
  { early = false }: { readonly early?: boolean } = {},
): Promise<Person | undefined> {
  if (!token) return undefined;
  const hash = digest(token);
  const found = await personInSession(db(), hash, config.idleDays);
  if (!found) return undefined;
  const { temporary, stale, ...person } = found;
  if (temporary && !early)
    throw new Problem(
      403,
      'change-password',
      'Your password was set by somebody else. Change it on the page “Account” first.',
    );
  if (stale) await noteSeen(db(), hash);
  actsInSession(hash);
  actsFor(person.id);
  return person;
}

export async function isEmptyInstallation(): Promise<boolean> {
  return (await anybody(db())) === undefined;
}

/** Makes the first person, once. */
export async function makeFirstAdministrator(
  input: z.infer<typeof firstAdministratorSchema>,
): Promise<{ token: string; person: Person }> {
  await refuseCommon(input.password, input);
  const hash = await hashPassword(input.password);
  const person = await transaction(async (client) => {
    await lockPeople(client);
    if (await anybody(client))
      throw new Problem(409, 'already-set-up', 'This installation already has an administrator. Sign in instead.');
    const made = await insertPersonRow(client, input.name, input.email, 'administrator', hash);
    if (!made) throw new Error('a person was not inserted');
    await record(client, [{ act: 'added a person', by: made, subject: `${made.name}, the first administrator` }]);
    return made;
  });
  return { token: await openSession(db(), person.id), person };
}
