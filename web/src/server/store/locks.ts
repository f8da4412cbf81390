/**
 * Check-ins and the collector. Whoever makes a content refer to chunks holds the lock shared from before it names the
 * content's revision until its transaction ends; the collector holds it alone, for moments, when it takes stock and
 * when it deletes.
 */
import type { Db } from '../db/pool.ts';

const COLLECT = 0x0772_e101;

export const holdShared = (client: Db): Promise<unknown> =>
  client.query('select pg_advisory_xact_lock_shared($1)', [COLLECT]);
export const holdAlone = (client: Db): Promise<unknown> => client.query('select pg_advisory_xact_lock($1)', [COLLECT]);
