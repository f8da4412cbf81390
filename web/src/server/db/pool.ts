/** Connections to PostgreSQL. One pool for short work; one for uploads, which hold a connection while bytes arrive. */
import pg from 'pg';
import { config } from '../config.ts';
import { log } from '../log.ts';

export type Db = Pick<pg.ClientBase, 'query'>;
export type Client = pg.PoolClient;

interface Pools {
  short: pg.Pool;
  upload: pg.Pool;
  replica: pg.Pool | undefined;
}

// Next may load this module more than once in one process.
const holder = globalThis as typeof globalThis & { ovrelPools?: Pools };

function pools(): Pools {
  holder.ovrelPools ??= {
    short: open({ max: config.connections, connectionTimeoutMillis: PATIENCE.short }),
    upload: open({ max: config.uploadsAtOnce, connectionTimeoutMillis: PATIENCE.upload }),
    replica: config.replicaUrl
      ? open({
          max: config.connections,
          connectionTimeoutMillis: PATIENCE.short,
          connectionString: config.replicaUrl,
        })
      : undefined,
  };
  return holder.ovrelPools;
}

/** No connection came free in time. */
export class Busy extends Error {}

/** How long somebody waits for a connection, in milliseconds. */
const PATIENCE = { short: 15_000, upload: 30_000 } as const;
/** What the pool says then: it has no code for it. */
const NO_CONNECTION = 'timeout exceeded when trying to connect';

/** Waiting in vain is a failure of its own. */
export const asBusy = (error: unknown): unknown =>
  error instanceof Error && error.message === NO_CONNECTION
    ? new Busy('no database connection came free in time')
    : error;

function open(options: pg.PoolConfig): pg.Pool {
  const pool = new pg.Pool({ connectionString: config.appUrl, ...options });
  // Also while a connection is lent out: without a listener its loss would end the process. What is asked of it next
  // fails.
  pool.on('connect', (client) =>
    client.on('error', (error) => log.warn({ error: error.message }, 'a database connection was lost')),
  );
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection failed'));
  return pool;
}

export const db = (): pg.Pool => pools().short;

/**
 * For contents, which never change: a replica where one is set (OVREL_REPLICA_URL). What is not there yet is asked of
 * db().
 */
export const replica = (): pg.Pool => pools().replica ?? pools().short;

/** Runs `work` in a transaction: all of it lands, or nothing. */
export async function transaction<T>(
  work: (client: Client) => Promise<T>,
  kind: 'short' | 'upload' = 'short',
): Promise<T> {
  const client = await pools()[kind].connect();
  let broken: Error | undefined;
  try {
    await client.query('begin');
    // The collector waits for transactions that have a number: it must see an upload before that looks for its first
    // chunk.
    if (kind === 'upload') await client.query('select pg_current_xact_id()');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch((e: Error) => {
      broken = e;
    });
    throw error;
  } finally {
    client.release(broken);
  }
}

/** One connection for `work`, which may begin transactions of its own on it. */
export async function withClient<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const client = await pools().short.connect();
  try {
    return await work(client);
  } finally {
    client.release();
  }
}

export async function closePools(): Promise<void> {
  const open = holder.ovrelPools;
  delete holder.ovrelPools;
  await Promise.all([open?.short.end(), open?.upload.end(), open?.replica?.end()]);
}

/** First row of a query, or undefined. */
export async function one<T extends pg.QueryResultRow>(
  client: Db,
  text: string,
  values: unknown[] = [],
): Promise<T | undefined> {
  return (await client.query<T>(text, values)).rows[0];
}

export async function many<T extends pg.QueryResultRow>(
  client: Db,
  text: string,
  values: unknown[] = [],
): Promise<T[]> {
  return (await client.query<T>(text, values)).rows;
}
