/** Carries out jobs: in worker processes as they come, in tests and the demo's loader until none waits. */
import type { PgBoss } from 'pg-boss';
import { jobKinds, type JobKind } from '../../contract/storage.ts';
import { db, one } from '../db/pool.ts';
import { log } from '../log.ts';
import { STORE } from '../store/copy.ts';
import { kinds, sender, startBoss } from './queue.ts';
import { works } from './works.ts';

/** The job was cancelled by a person. */
export class Cancelled extends Error {}

/** What a job tells while it works; telling throws Cancelled once somebody has cancelled it. */
export type Tell = (doing: string, done: number, total: number | null) => Promise<void>;

/** Progress is written at most this often, in milliseconds. */
const TELL_EVERY = 400;
const SIGN_EVERY = 10_000;

interface JobRow {
  id: string;
  kind: JobKind;
  data: Record<string, string>;
  state: string;
}

/** One attempt. Throws where it should be tried again. */
export async function runJob(
  kind: JobKind,
  jobId: string | undefined,
  last: boolean,
  signal?: AbortSignal,
): Promise<void> {
  // What the clock starts has no row yet.
  const id =
    jobId ??
    (
      await one<{ id: string }>(
        db(),
        `
    insert into job (store_id, kind, key, title) values ($1, $2, $2, $3)
    on conflict (store_id, kind, key) where state = 'waiting' do update set title = excluded.title returning id`,
        [STORE, kind, titles[kind] ?? kind],
      )
    )?.id;
  const job = await one<JobRow>(
    db(),
    `
    update job set state = 'running', attempts = attempts + 1, started_at = coalesce(started_at, now()), seen_at = now(), problem = null
    where id = $1 and state in ('waiting', 'running') returning id, kind, data, state`,
    [id],
  );
  if (!job) return;
  const sign = setInterval(
    () =>
      void db()
        .query('update job set seen_at = now() where id = $1', [job.id])
        .catch(() => undefined),
    SIGN_EVERY,
  );
  try {
    const report = await works[kind](job.data, teller(job.id, signal));
    await db().query(
      `update job set state = 'done', ended_at = now(), report = $2, doing = '', done = coalesce(total, done) where id = $1`,
      [job.id, JSON.stringify(report ?? null)],
    );
  } catch (error) {
    await failed(job.id, error as Error, last);
    if (!(error instanceof Cancelled)) throw error;
  } finally {
    clearInterval(sign);
  }
}

async function failed(id: string, error: Error, last: boolean): Promise<void> {
  if (error instanceof Cancelled) {
    await db().query(`update job set state = 'cancelled', ended_at = now(), doing = '' where id = $1`, [id]);
    return;
  }
  log.warn({ id, error: error.stack }, 'a job failed');
  await db().query(
    `update job set state = case when $3 then 'failed' else state end, ended_at = case when $3 then now() end, problem = $2 where id = $1`,
    [id, error.message.slice(0, 500), last],
  );
}

export const titles: Partial<Record<JobKind, string>> = {
  tally: 'Counting what is stored',
  collect: 'Removing what nothing needs',
  scrub: 'Reading and checking everything',
};

function teller(id: string, signal?: AbortSignal): Tell {
  let told = 0;
  return async (doing, done, total) => {
    if (signal?.aborted) throw new Error('the worker is stopping');
    const now = Date.now();
    if (now - told < TELL_EVERY) return;
    told = now;
    const row = await one<{ cancelling: boolean }>(
      db(),
      'update job set doing = $2, done = $3, total = $4, seen_at = now() where id = $1 returning cancelling',
      [id, doing, done, total],
    );
    if (row?.cancelling) throw new Cancelled();
  };
}

/** Jobs that people wait for which are carried out side by side. */
const AT_ONCE = 2;

/** Takes jobs until told to stop. `atOnce` jobs that people wait for; the heavy kinds one at a time. */
export async function startWorker(atOnce = AT_ONCE): Promise<{ stop: () => Promise<void> }> {
  const boss = await startBoss();
  const stopping = new AbortController();
  const beat = (): Promise<unknown> =>
    db().query('insert into worker (id, seen_at) values ($1, now()) on conflict (id) do update set seen_at = now()', [
      workerId,
    ]);
  await beat();
  const timer = setInterval(() => {
    void beat().catch(() => undefined);
    void buryDead().catch(() => undefined);
  }, SIGN_EVERY);
  for (const kind of jobKinds) {
    await boss.work<
      { jobId?: string },
      undefined,
      { includeMetadata: true; pollingIntervalSeconds: number; localConcurrency: number }
    >(
      kind,
      { includeMetadata: true, pollingIntervalSeconds: 0.5, localConcurrency: kind === 'look' ? atOnce : 1 },
      async ([job]) => {
        if (job)
          await runJob(
            kind,
            job.data.jobId,
            job.retryCount >= job.retryLimit,
            AbortSignal.any([stopping.signal, job.signal]),
          );
        return undefined;
      },
    );
  }
  return {
    stop: async () => {
      clearInterval(timer);
      stopping.abort();
      await boss.stop({ graceful: true, timeout: 5000 });
      await db().query('delete from worker where id = $1', [workerId]);
    },
  };
}

const workerId = crypto.randomUUID();

/** Jobs whose worker is gone and that nobody will try again. */
export async function buryDead(): Promise<void> {
  await db().query(
    `update job set state = 'failed', ended_at = now(), problem = 'The worker process that ran it came to an end.' where state = 'running' and seen_at < now() - interval '15 minutes'`,
  );
  await db().query(`delete from job where state in ('done', 'cancelled') and ended_at < now() - interval '3 days'`);
  await db().query(`delete from worker where seen_at < now() - interval '5 minutes'`);
}

/** Carries out everything that waits, here and now. Gives how many jobs that were. */
export async function runWaitingJobs(only: readonly JobKind[] = jobKinds): Promise<number> {
  const boss: PgBoss = await sender();
  const order = [...only].sort((a, b) => kinds[b].priority - kinds[a].priority);
  let count = 0;
  for (let found = true; found;) {
    found = false;
    for (const kind of order) {
      const jobs = await boss.fetch<{ jobId?: string }>(kind, { batchSize: 20 });
      found ||= jobs.length > 0;
      count += jobs.length;
      const run = (job: (typeof jobs)[number]): Promise<unknown> =>
        runJob(kind, job.data.jobId, true).then(
          () => boss.complete(kind, job.id),
          (error: Error) => boss.fail(kind, job.id, { message: error.message }),
        );
      const atOnce = kind === 'look' ? AT_ONCE : 1;
      for (let k = 0; k < jobs.length; k += atOnce) await Promise.all(jobs.slice(k, k + atOnce).map(run));
    }
  }
  return count;
}
