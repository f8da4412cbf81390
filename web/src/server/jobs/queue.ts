/** The queue: pg-boss delivers, retries and schedules; the table `job` is what people see. */
import { PgBoss } from 'pg-boss';
import type { JobKind } from '../../contract/storage.ts';
import { config } from '../config.ts';
import { db, one, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { STORE } from '../store/copy.ts';

interface Kind {
  /** Larger goes first. */
  readonly priority: number;
  /** Times that it is tried again after a failure. */
  readonly retries: number;
  /** When it starts by itself (cron, UTC). */
  readonly cron?: string;
}

export const kinds: Readonly<Record<JobKind, Kind>> = {
  look: { priority: 30, retries: 2 },
  summary: { priority: 20, retries: 2 },
  pack: { priority: 10, retries: 2 },
  tally: { priority: 5, retries: 1, cron: '7 * * * *' },
  collect: { priority: 5, retries: 1, cron: '23 * * * *' },
  scrub: { priority: 1, retries: 1, cron: '41 2 * * 0' },
};

/** A worker that gives no sign for this long is taken for dead, and its job is given to another. */
const HEARTBEAT_SECONDS = 30;

/** Makes the queue's own tables and queues; at installation. */
export async function installQueue(databaseUrl: string): Promise<void> {
  const boss = new PgBoss({ connectionString: databaseUrl, max: 2, supervise: false, schedule: false });
  boss.on('error', (error) => log.warn({ error: error.message }, 'the queue'));
  await boss.start();
  try {
    for (const [kind, { retries }] of Object.entries(kinds)) {
      const options = {
        retryLimit: retries,
        retryDelay: 5,
        retryBackoff: true,
        expireInSeconds: 20 * 3600,
        heartbeatSeconds: HEARTBEAT_SECONDS,
        deleteAfterSeconds: 86_400,
      };
      if (await boss.getQueue(kind)) await boss.updateQueue(kind, options);
      else await boss.createQueue(kind, options);
    }
  } finally {
    await boss.stop({ graceful: false });
  }
}

const holder = globalThis as typeof globalThis & { ovrelQueue?: Promise<PgBoss> };

/** For sending: uses our own connections and does no upkeep. */
export const sender = (): Promise<PgBoss> => (holder.ovrelQueue ??= startSender());

async function startSender(): Promise<PgBoss> {
  const boss = new PgBoss({
    db: { executeSql: (text, values) => db().query(text, values as unknown[]) },
    supervise: false,
    schedule: false,
    migrate: false,
  });
  boss.on('error', (error) => log.warn({ error: error.message }, 'the queue'));
  await boss.start();
  return boss;
}

/** Every queue asks twice a second; while the database is away, one line in ten seconds says so. */
function warnOnce(): (error: Error) => void {
  let quietUntil = 0;
  return (error) => {
    if (Date.now() < quietUntil) return;
    quietUntil = Date.now() + 10_000;
    log.warn({ error: error.message }, 'the queue');
  };
}

/** For workers: fetches, keeps up, and starts what is due. */
export async function startBoss(): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: config.appUrl,
    max: 6,
    migrate: false,
    superviseIntervalSeconds: 10,
    monitorIntervalSeconds: 10,
    maintenanceIntervalSeconds: 3600,
  });
  boss.on('error', warnOnce());
  await boss.start();
  for (const [kind, { cron }] of Object.entries(kinds)) if (cron) await boss.schedule(kind, cron, {}, { tz: 'UTC' });
  return boss;
}

export async function closeQueue(): Promise<void> {
  const boss = holder.ovrelQueue;
  delete holder.ovrelQueue;
  await (await boss)?.stop({ graceful: false, close: false });
}

export interface NewJob {
  readonly kind: JobKind;
  /** Work on the same thing waits only once. */
  readonly key: string;
  readonly title: string;
  readonly data?: Readonly<Record<string, string>>;
  readonly by?: string;
}

/** Puts work into the queue, in the caller's transaction if `client` is one: it is there exactly if the transaction lands. Gives its id. */
export async function enqueue(client: Db, job: NewJob): Promise<string> {
  const boss = await sender();
  const row = await one<{ id: string }>(
    client,
    `
    insert into job (store_id, kind, key, title, data, requested_by) values ($1, $2, $3, $4, $5, $6)
    on conflict (store_id, kind, key) where state = 'waiting' do nothing returning id`,
    [STORE, job.kind, job.key, job.title.slice(0, 300), JSON.stringify(job.data ?? {}), job.by ?? null],
  );
  if (row) {
    await boss.send(
      job.kind,
      { jobId: row.id },
      {
        priority: kinds[job.kind].priority,
        db: { executeSql: (text, values) => client.query(text, values as unknown[]) },
      },
    );
    return row.id;
  }
  const waiting = await one<{ id: string }>(
    client,
    `select id from job where store_id = $1 and kind = $2 and key = $3 order by created_at desc limit 1`,
    [STORE, job.kind, job.key],
  );
  return waiting?.id ?? '';
}
