/** What everybody does with their own account. */
import type { Account, BegunSecondFactor } from '../../contract/account.ts';
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record, type Act } from '../ledger/ledger.ts';
import { sessionNow } from '../ledger/origin.ts';
import { notFound, Problem } from '../problem.ts';
import {
  accountRow,
  codesLeft,
  confirmSecondFactorRow,
  dropKnownBrowsers,
  dropSessionById,
  dropSessions,
  lockAccount,
  replaceRecoveryCodes,
  revokeTokens,
  sessionRows,
  setSecondFactor,
  updatePassword,
  type AccountRow,
} from './account-rows.ts';
import { countedFor, countWrong, forgetWrong, refusePaused } from './attempts.ts';
import { refuseCommon } from './common-passwords.ts';
import { hashPassword, passwordMatches } from './passwords.ts';
import { describeSecret, newRecoveryCodes, newSecret, opens } from './second-factor.ts';

export async function accountOf(by: Person): Promise<Account> {
  const row = await accountRow(db(), by.id);
  if (!row) throw notFound('person');
  const { id, name, email, role } = row;
  const since = row.second_factor_at?.toISOString();
  const current = sessionNow();
  return {
    person: { id, name, email, role },
    temporary: row.password_is_temporary,
    passwordSetAt: row.password_set_at.toISOString(),
    secondFactor: since === undefined ? null : { since, codesLeft: await codesLeft(db(), id) },
    sessions: (await sessionRows(db(), id)).map((session) => ({
      id: session.id,
      startedAt: session.created_at.toISOString(),
      seenAt: session.seen_at.toISOString(),
      origin: session.origin,
      current: current?.equals(session.token_hash) ?? false,
    })),
  };
}

/** Wrong answers are counted as at the door: an open browser is no place to guess somebody's password at leisure. */
async function prove(by: Person, own: string): Promise<void> {
  const counted = countedFor(by.email, { address: 'account', browser: by.id });
  await refusePaused(counted);
  const row = await accountRow(db(), by.id);
  if (await passwordMatches(row?.password_hash, own)) return forgetWrong(counted);
  await countWrong(counted);
  throw new Problem(403, 'wrong-password', 'This is not your password as it is. Nothing was changed.');
}

async function changeOwn(
  by: Person,
  act: Act,
  work: (client: Client, row: AccountRow) => Promise<string | undefined>,
): Promise<void> {
  await transaction(async (client) => {
    const row = await lockAccount(client, by.id);
    if (row?.state !== 'active') throw notFound('person');
    const more = await work(client, row);
    await record(client, [{ act, by, subject: more === undefined ? by.name : `${by.name}: ${more}` }]);
  });
}

/** All other sessions end, and all tokens: whoever knew the old password knows nothing any more. */
export async function changePassword(by: Person, own: string, password: string): Promise<Account> {
  await prove(by, own);
  await refuseCommon(password, by);
  if (own === password)
    throw new Problem(400, 'same-password', 'This is the password that you have. Take another one.');
  const hash = await hashPassword(password);
  await changeOwn(by, 'changed their password', async (client, row) => {
    if (!(await passwordMatches(row.password_hash, own)))
      throw new Problem(409, 'wrong-password', 'Your password was changed meanwhile. Nothing was changed now.');
    await updatePassword(client, by.id, hash, false);
    await dropSessions(client, by.id, sessionNow());
    await revokeTokens(client, by.id);
    await dropKnownBrowsers(client, by.id);
    return undefined;
  });
  return accountOf(by);
}

export async function endSession(by: Person, sessionId: string): Promise<Account> {
  const session = (await sessionRows(db(), by.id)).find(({ id }) => id === sessionId);
  if (!session) throw notFound('session');
  if (sessionNow()?.equals(session.token_hash))
    throw new Problem(409, 'this-session', 'This is the session that you are in. To end it, sign out.');
  await changeOwn(by, 'ended sessions', async (client) => {
    await dropSessionById(client, by.id, sessionId);
    return undefined;
  });
  return accountOf(by);
}

export async function endOtherSessions(by: Person): Promise<Account> {
  await changeOwn(by, 'ended sessions', async (client) => {
    await dropSessions(client, by.id, sessionNow());
    return undefined;
  });
  return accountOf(by);
}

/** A new secret, which opens nothing until a code proves that it has arrived. */
export async function beginSecondFactor(by: Person, own: string): Promise<BegunSecondFactor> {
  await prove(by, own);
  const secret = newSecret();
  await transaction(async (client) => {
    const row = await lockAccount(client, by.id);
    if (!row) throw notFound('person');
    if (row.second_factor_at)
      throw new Problem(409, 'has-second-factor', 'You have a second factor. End it first, then set up another one.');
    await setSecondFactor(client, by.id, secret);
  });
  return describeSecret(by.email, secret);
}

export async function confirmSecondFactor(by: Person, code: string): Promise<{ codes: string[] }> {
  const counted = countedFor(by.email, { address: 'account', browser: by.id });
  await refusePaused(counted);
  const { codes, hashes } = newRecoveryCodes();
  try {
    await changeOwn(by, 'set up a second factor', async (client, row) => {
      if (row.second_factor === null || row.second_factor_at)
        throw new Problem(409, 'not-begun', 'There is no second factor that waits for a code. Begin anew.');
      if (!/^[\d\s]+$/.test(code) || !(await opens(client, row, code)))
        throw new Problem(400, 'wrong-code', 'This is not the code of now. Wait for the next one and try again.');
      await confirmSecondFactorRow(client, by.id);
      await replaceRecoveryCodes(client, by.id, hashes);
      return undefined;
    });
  } catch (error) {
    if (error instanceof Problem && error.code === 'wrong-code') await countWrong(counted);
    throw error;
  }
  return { codes: [...codes] };
}

export async function endSecondFactor(by: Person, own: string): Promise<Account> {
  await prove(by, own);
  await changeOwn(by, 'ended a second factor', async (client) => {
    await setSecondFactor(client, by.id, null);
    await replaceRecoveryCodes(client, by.id, []);
    return undefined;
  });
  return accountOf(by);
}
