/** Rows of people, their sessions and their tokens. */
import { one, type Db } from '../db/pool.ts';

/** A token that holds now, and goes on to until the end of the transaction. */
export const holdsToken = async (client: Db, tokenId: string): Promise<boolean> =>
  (await one(
    client,
    'select 1 from access_token where id = $1 and revoked_at is null and expires_at > now() for share',
    [tokenId],
  )) !== undefined;

/** A session that is open now, and goes on to be until the end of the transaction. */
export const holdsSession = async (client: Db, hash: Buffer): Promise<boolean> =>
  (await one(client, 'select 1 from session where token_hash = $1 and expires_at > now() for share', [hash])) !==
  undefined;
