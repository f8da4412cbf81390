/** Carries out jobs: in worker processes as they come, in tests and the demo's loader until none waits. */
import type { PgBoss } from 'pg-boss';
import { db } from '../db/pool.ts';
import { log } from '../log.ts';
import type { JobKind, Tell } from './job.ts';
import { enqueue, sender, startBoss } from './queue.ts';
import { jobKind, jobKinds } from './registry.ts';
import {
  cancelledJob,
  failDeadJobs,
  failJob,
  finishJob,
  forgetDeadWorkers,
  forgetOldJobs,
  jobOfClock,
  signOfLife,
  startJobRow,
  tellProgress,
  workerIsGone,
  workerIsThere,
} from './rows.ts';

/** The job was cancelled by a person. */
class Cancelled extends Error {}

/** Progress is written at most this often, in milliseconds. */
const TELL_EVERY = 400;
const SIGN_EVERY = 10_000;
/** Longest reason of a failure that is kept, in characters. */
const LONGEST_PROBLEM = 500;

/** One attempt. Throws where it should be tried again. */
export async function runJob(
  kind: string,
  jobId: string | undefined,
  last: boolean,
  signal?: AbortSignal,
): Promise<void> {
  const work = jobKind(kind);
  const id = jobId ?? (await jobOfClock(db(), kind, work.title));
  const started = id === undefined ? undefined : await startJobRow(db(), id);
  if (!started) return;
  const sign = setInterval(() => void signOfLife(db(), started.id).catch(() => undefined), SIGN_EVERY);
  try {
    const context = { tell: teller(started.id, signal), enqueue: enqueueHere };
    const report = await work.run(work.schema.parse(started.data), context);
    await finishJob(db(), started.id, report);
  } catch (error) {
    await failed(started.id, error as Error, last);
    if (!(error instanceof Cancelled)) throw error;
  } finally {
    clearInterval(sign);
  }
}

const enqueueHere = (job: Parameters<typeof enqueue>[1]): Promise<string> => enqueue(db(), job);

async function failed(id: string, error: Error, last: boolean): Promise<void> {
  if (error instanceof Cancelled) return cancelledJob(db(), id);
  log.warn({ id, error: error.stack }, 'a job failed');
  return failJob(db(), id, error.message.slice(0, LONGEST_PROBLEM), last);
}

function teller(id: string, signal?: AbortSignal): Tell {
  let told = 0;
  return async (doing, done, total) => {
    if (signal?.aborted) throw new Error('the worker is stopping');
    const now = Date.now();
    if (now - told < TELL_EVERY) return;
    told = now;
    if (await tellProgress(db(), id, doing, done, total)) throw new Cancelled();
  };
}

/** How pg-boss hands jobs over. */
interface Handing {
  readonly includeMetadata: true;
  readonly pollingIntervalSeconds: number;
  readonly localConcurrency: number;
}

/** Takes jobs until told to stop. `atOnce` replaces what kinds that allow several at a time say. */
export async function startWorker(atOnce?: number): Promise<{ stop: () => Promise<void> }> {
  const boss = await startBoss();
  const stopping = new AbortController();
  await workerIsThere(db(), workerId);
  const timer = setInterval(() => {
    void workerIsThere(db(), workerId).catch(() => undefined);
    void buryDead().catch(() => undefined);
  }, SIGN_EVERY);
  for (const { kind, atOnce: own } of jobKinds.values()) {
    const localConcurrency = own === undefined ? 1 : (atOnce ?? own);
    await boss.work<{ jobId?: string }, undefined, Handing>(
      kind,
      { includeMetadata: true, pollingIntervalSeconds: 0.5, localConcurrency },
      async ([job]) => {
        if (!job) return undefined;
        const signal = AbortSignal.any([stopping.signal, job.signal]);
        await runJob(kind, job.data.jobId, job.retryCount >= job.retryLimit, signal);
        return undefined;
      },
    );
  }
  return {
    stop: async () => {
      clearInterval(timer);
      stopping.abort();
      await boss.stop({ graceful: true, timeout: 5000 });
      await workerIsGone(db(), workerId);
    },
  };
}

const workerId = crypto.randomUUID();

/** Clears away what workers left that are gone. */
export async function buryDead(): Promise<void> {
  await failDeadJobs(db());
  await forgetOldJobs(db());
  await forgetDeadWorkers(db());
}

/** Jobs of a kind that are fetched at a time. */
const BATCH = 20;

/** Carries out everything that waits, here and now. Gives how many jobs that were. */
export async function runWaitingJobs(only: readonly string[] = [...jobKinds.keys()]): Promise<number> {
  const boss = await sender();
  const kinds = only.map(jobKind).sort((a, b) => b.priority - a.priority);
  let count = 0;
  for (;;) {
    let found = 0;
    for (const kind of kinds) found += await runBatch(boss, kind);
    if (!found) return count;
    count += found;
  }
}

async function runBatch(boss: PgBoss, { kind, atOnce = 1 }: JobKind): Promise<number> {
  const jobs = await boss.fetch<{ jobId?: string }>(kind, { batchSize: BATCH });
  const run = (job: (typeof jobs)[number]): Promise<unknown> =>
    runJob(kind, job.data.jobId, true).then(
      () => boss.complete(kind, job.id),
      (error: Error) => boss.fail(kind, job.id, { message: error.message }),
    );
  for (let k = 0; k < jobs.length; k += atOnce) await Promise.all(jobs.slice(k, k + atOnce).map(run));
  return jobs.length;
}
