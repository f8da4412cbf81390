/** Rows of access tokens. */
import { many, one, type Db } from '../db/pool.ts';
import { type AccessToken } from '../../contract/desk.ts';
import { type Person } from '../../contract/api.ts';

const columns = 'id, name, scope, made_at, expires_at, used_at, revoked_at';

export interface TokenRow {
  id: string;
  name: string;
  scope: AccessToken['scope'];
  made_at: Date;
  expires_at: Date;
  used_at: Date | null;
  revoked_at: Date | null;
}

export const tokensOf = (client: Db, personId: string): Promise<TokenRow[]> =>
  many<TokenRow>(client, `select ${columns} from access_token where person_id = $1 order by made_at desc`, [personId]);

export const insertToken = (
  client: Db,
  personId: string,
  name: string,
  scope: string,
  hash: Buffer,
  days: number,
): Promise<TokenRow | undefined> =>
  one<TokenRow>(
    client,
    `
      insert into access_token (person_id, name, scope, token_hash, expires_at) values ($1, $2, $3, $4, now() + make_interval(days => $5)) returning ${columns}`,
    [personId, name, scope, hash, days],
  );

export const revokeRow = (client: Db, id: string, personId: string): Promise<TokenRow | undefined> =>
  one<TokenRow>(
    client,
    `update access_token set revoked_at = coalesce(revoked_at, now()) where id = $1 and person_id = $2 returning ${columns}`,
    [id, personId],
  );

export const personByToken = (
  client: Db,
  hash: Buffer,
): Promise<(Person & { token_id: string; scope: string; held: boolean; revoked: boolean }) | undefined> =>
  one<Person & { token_id: string; scope: string; held: boolean; revoked: boolean }>(
    client,
    `
    select p.id, p.name, p.email, p.role, t.id as token_id, t.scope, t.expires_at > now() as held,
      t.revoked_at is not null as revoked
    from access_token t join person p on p.id = t.person_id
    where t.token_hash = $1 and p.state = 'active'`,
    [hash],
  );

export async function noteUse(client: Db, tokenId: string): Promise<void> {
  await client.query(
    `update access_token set used_at = now() where id = $1 and (used_at is null or used_at < now() - interval '1 minute')`,
    [tokenId],
  );
}
