/** Access tokens: what programs show instead of a session. Scoped, expiring, revocable. */
import { createHash, randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { AccessToken, MadeToken, newTokenSchema } from '../../contract/desk.ts';
import { db, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { actsByToken, actsFor } from '../ledger/origin.ts';
import { notFound, Problem } from '../problem.ts';
import { tokensOf, insertToken, revokeRow, personByToken, noteUse, type TokenRow } from './token-rows.ts';

/** So that a token is known for what it is where one turns up. */
const PREFIX = 'ovrel_';

const digest = (token: string): Buffer => createHash('sha256').update(token).digest();

const tokenOf = (r: TokenRow): AccessToken => ({
  id: r.id,
  name: r.name,
  scope: r.scope,
  madeAt: r.made_at.toISOString(),
  expiresAt: r.expires_at.toISOString(),
  usedAt: r.used_at?.toISOString() ?? null,
  expired: r.expires_at.getTime() <= Date.now(),
  revoked: r.revoked_at !== null,
});

/** One's own tokens, the latest first. */
export async function listTokens(by: Person): Promise<AccessToken[]> {
  return (await tokensOf(db(), by.id)).map(tokenOf);
}

export async function makeToken(by: Person, { name, scope, days }: z.infer<typeof newTokenSchema>): Promise<MadeToken> {
  const token = PREFIX + randomBytes(30).toString('base64url');
  return transaction(async (client) => {
    const row = await insertToken(client, by.id, name, scope, digest(token), days);
    if (!row) throw new Error('a token was not inserted');
    await record(client, [{ act: 'made a token', by, subject: `${name}, for ${scope}, ${days} days` }]);
    return { ...tokenOf(row), token };
  });
}

/** From now on it opens nothing, also in the middle of what a program does. */
export async function revokeToken(by: Person, id: string): Promise<AccessToken> {
  return transaction(async (client) => {
    const row = await revokeRow(client, id, by.id);
    if (!row) throw notFound('token');
    await record(client, [{ act: 'revoked a token', by, subject: row.name }]);
    return tokenOf(row);
  });
}

/** Whose token it is. Throws a Problem where it does not hold, or not for this. */
export async function personOfToken(token: string, changes: boolean): Promise<Person> {
  const row = await personByToken(db(), digest(token));
  if (!row)
    throw new Problem(401, 'unknown-token', 'This access token is not known here. Make one on the page “Desk”.');
  if (row.revoked)
    throw new Problem(401, 'revoked-token', 'This access token was revoked. Make a new one on the page “Desk”.');
  if (!row.held)
    throw new Problem(401, 'expired-token', 'This access token has expired. Make a new one on the page “Desk”.');
  if (changes && row.scope !== 'desk')
    throw new Problem(
      403,
      'token-scope',
      'This access token is for reading only. Make one for the desk to check out and check in.',
    );
  await noteUse(db(), row.token_id);
  actsByToken(row.token_id);
  actsFor(row.id);
  const { id, name, email, role } = row;
  return { id, name, email, role };
}
