/** The queue: pg-boss delivers, retries and schedules; the table `job` is what people see. */
import { PgBoss } from 'pg-boss';
import { config } from '../config.ts';
import { db, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { forget, single } from '../single.ts';
import { jobKind, jobKinds } from './registry.ts';
import { insertJob, waitingJob } from './rows.ts';

/** A worker that gives no sign for this long is taken for dead, and its job is given to another. */
const HEARTBEAT_SECONDS = 30;

/** Makes the queue's own tables and queues; at installation. */
export async function installQueue(databaseUrl: string): Promise<void> {
  const boss = new PgBoss({ connectionString: databaseUrl, max: 2, supervise: false, schedule: false });
  boss.on('error', (error) => log.warn({ error: error.message }, 'the queue'));
  await boss.start();
  try {
    for (const [kind, { retries }] of jobKinds) {
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

const SENDER = 'queue';

/** For sending: uses our own connections and does no upkeep. */
export const sender = (): Promise<PgBoss> => single(SENDER, startSender);

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
  for (const [kind, { cron }] of jobKinds) if (cron) await boss.schedule(kind, cron, {}, { tz: 'UTC' });
  return boss;
}

export async function closeQueue(): Promise<void> {
  const boss = forget(SENDER) as Promise<PgBoss> | undefined;
  await (await boss)?.stop({ graceful: false, close: false });
}

export interface NewJob {
  readonly kind: string;
  /** Work on the same thing waits only once. */
  readonly key: string;
  /** What people read; that of the kind where it is left out. */
  readonly title?: string;
  readonly data?: Readonly<Record<string, string>>;
  readonly by?: string;
}

/**
 * Puts work into the queue, in the caller's transaction if `client` is one: it is there exactly if the transaction
 * lands. Gives its id.
 */
export async function enqueue(client: Db, { kind, key, title, data = {}, by }: NewJob): Promise<string> {
  const boss = await sender();
  const { priority, title: usual, schema } = jobKind(kind);
  schema.parse(data);
  const id = await insertJob(client, { kind, key, title: title ?? usual, data, by });
  if (id === undefined) return (await waitingJob(client, kind, key)) ?? '';
  const sent = { executeSql: (text: string, values?: unknown[]) => client.query(text, values) };
  await boss.send(kind, { jobId: id }, { priority, db: sent });
  return id;
}
