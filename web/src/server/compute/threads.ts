/** Worker threads of this process, with a limit on the time and memory of each task. */
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { MessageChannel, type Transferable } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { config } from '../config.ts';
import { log } from '../log.ts';
import { forget, single } from '../single.ts';
import { bytesIn } from './task.ts';
import { Abandoned } from './waiting.ts';
import type { Order, Outcome, Told } from './worker.ts';
import type { InputOf, ResultOf, TaskName } from './tasks/index.ts';

/** The computation was stopped because it took too long or too much memory: it may work another time. */
export class TooHeavy extends Error {}

/** Putting containers together again has a thread of its own, and so have uploads: neither waits for a comparison. */
export const threadsFor = {
  look: 2,
  deflate: 1,
  cut: Math.max(1, Math.min(4, availableParallelism() - 1)),
} as const;
type Group = keyof typeof threadsFor;
export const groupOf = (name: TaskName): Group => (name === 'deflate' || name === 'cut' ? name : 'look');

const MEMORY_MB = 2048;
/** Threads that have nothing to do end after this long, in milliseconds. */
const IDLE = 60_000;
/** Allowed time in seconds: a base, and more for every megabyte. */
const SECONDS = 15;
export const SECONDS_A_MEGABYTE = 2;

export interface RunOptions {
  /** Base of the allowed time, in seconds. */
  readonly seconds?: number | undefined;
  /** Hears what is known so far, of tasks that say so. */
  readonly progress?: ((soFar: never) => void) | undefined;
}

export interface ThreadOptions extends RunOptions {
  /** Aborts when nobody waits any more. */
  readonly gone: AbortSignal | undefined;
}

function newPool(group: Group): Piscina {
  const pool = new Piscina({
    // The thread runs the source itself, outside the bundle, so the path must not be seen as an import.
    filename: join(/* turbopackIgnore: true */ config.root, 'web', 'src', 'server', 'compute', 'worker.ts'),
    minThreads: 0,
    maxThreads: threadsFor[group],
    idleTimeout: IDLE,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
    env: { OVREL_LOG: process.env['OVREL_LOG'] ?? 'warn' },
  });
  pool.on('error', (error: Error) => {
    log.warn({ error: error.message }, 'a worker thread failed');
    const times = (failures.get(pool) ?? 0) + 1;
    failures.set(pool, times);
    // Without a thread nothing would ever take up what waits.
    if (times >= MOST_FAILURES || pool.threads.length === 0) giveUp(group, pool);
  });
  return pool;
}

/** Threads that could not even begin, one after the other: whoever waits for them would wait for ever. */
const MOST_FAILURES = 5;
const failures = new WeakMap<Piscina, number>();

/** Fails all that waits for a pool; the next task makes a new one. */
function giveUp(group: Group, pool: Piscina): void {
  log.error({ group }, 'worker threads cannot be started; what waits for them fails');
  if (pools().get(group) === pool) pools().delete(group);
  void pool.destroy().catch(() => undefined);
}

const POOLS = 'worker pools';
const pools = (): Map<Group, Piscina> => single(POOLS, () => new Map<Group, Piscina>());

function poolFor(group: Group): Piscina {
  const pool = pools().get(group) ?? newPool(group);
  pools().set(group, pool);
  return pool;
}

/**
 * Runs a task in a thread. The bytes that go with it are given away: they cannot be used afterwards. Throws TooHeavy
 * past its limits, and Abandoned where nobody waits for it any more.
 */
export async function runInThread<Name extends TaskName>(
  name: Name,
  input: InputOf<Name>,
  { seconds = SECONDS, progress, gone }: ThreadOptions,
): Promise<ResultOf<Name>> {
  const bytes = bytesIn(input);
  const transferList: Transferable[] = [...new Set(bytes.map((b) => b.buffer as ArrayBuffer))];
  const megabytes = bytes.reduce((n, b) => n + b.length, 0) / 1024 ** 2;
  const pool = poolFor(groupOf(name));
  const limit = new Limit(seconds + SECONDS_A_MEGABYTE * Math.ceil(megabytes));
  const { port1: here, port2: port } = new MessageChannel();
  here.on('message', (told: Told) => {
    // To wait for a thread takes none of a task's own time.
    if ('begun' in told) {
      failures.delete(pool);
      limit.begin();
    } else progress?.(told.soFar as never);
  });
  transferList.push(port);
  const order: Order = { name, input, port };
  const signal = gone ? AbortSignal.any([limit.signal, gone]) : limit.signal;
  try {
    const outcome = (await pool.run(order, { transferList, signal })) as Outcome;
    if ('exhausted' in outcome) throw new TooHeavy(outcome.exhausted);
    return outcome.value as ResultOf<Name>;
  } catch (error) {
    if (limit.passed) throw tooLong();
    throw gone?.aborted ? new Abandoned('nobody waits for it any more') : asTooHeavy(error);
  } finally {
    limit.end();
    here.close();
  }
}

const tooLong = (): TooHeavy => new TooHeavy('Looking into this file took longer than Ovrel allows.');

const asTooHeavy = (error: unknown): unknown =>
  (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY'
    ? new TooHeavy('Looking into this file took more memory than Ovrel allows.')
    : error;

/** Aborts some time after it begins. */
class Limit {
  passed = false;
  private readonly controller = new AbortController();
  private readonly seconds: number;
  private timer: NodeJS.Timeout | undefined;

  constructor(seconds: number) {
    this.seconds = seconds;
  }

  begin(): void {
    this.timer = setTimeout(() => {
      this.passed = true;
      this.controller.abort();
    }, this.seconds * 1000);
  }

  get signal(): AbortSignal {
    return this.controller.signal;
  }

  end(): void {
    clearTimeout(this.timer);
  }
}

/** Ends the threads; the next task starts new ones. */
export async function closeThreads(): Promise<void> {
  const open = [...pools().values()];
  forget(POOLS);
  await Promise.all(open.map(async (pool) => pool.destroy()));
}
