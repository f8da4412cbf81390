/** Worker threads that look into untrusted bytes, with a limit on time and memory. */
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { config } from '../config.ts';
import { log } from '../log.ts';
import type { PagesSoFar } from '@ovrel/core';
import { bytesOf, type Results, type Task } from './tasks.ts';

/** The computation was stopped because it took too long or too much memory. */
export class TooHeavy extends Error {}

type TaskOf<K extends Task['kind']> = Extract<Task, { kind: K }>;

interface Job {
  readonly task: Task;
  readonly done: (result: never) => void;
  readonly failed: (error: Error) => void;
  readonly progress: ((soFar: PagesSoFar) => void) | undefined;
}

/** Putting containers together again has a thread of its own, and so have uploads: neither waits for a comparison. */
const threadsFor = { look: 2, deflate: 1, cut: Math.max(1, Math.min(4, availableParallelism() - 1)) } as const;
type Group = keyof typeof threadsFor;
const groupOf = (task: Task): Group => (task.kind === 'deflate' || task.kind === 'cut' ? task.kind : 'look');
const MEMORY_MB = 2048;
/** Allowed time in milliseconds: a base (more for comparing, where pages may have to be drawn and laid over one another), and two seconds a megabyte. */
const timeFor = (task: Task): number => {
  const bytes = bytesOf(task).reduce((n, b) => n + b.length, 0);
  return (task.kind === 'compare' ? 45_000 : 15_000) + 2_000 * Math.ceil(bytes / 1024 ** 2);
};

/** One thread and what it is doing. */
class Thread {
  private readonly worker: Worker;
  private current: { readonly job: Job; readonly timer: NodeJS.Timeout } | undefined;
  private readonly onFree: (thread: Thread, usable: boolean) => void;

  constructor(onFree: (thread: Thread, usable: boolean) => void) {
    this.onFree = onFree;
    // The thread runs the source itself, outside the bundle, so the path must not be seen as an import.
    this.worker = new Worker(
      join(/* turbopackIgnore: true */ config.root, 'web', 'src', 'server', 'compute', 'worker.ts'),
      {
        resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
        env: { OVREL_LOG: process.env['OVREL_LOG'] ?? 'warn' },
      },
    );
    this.worker.on('message', (answer: { result?: never; failure?: string; progress?: PagesSoFar }) => {
      if (answer.progress) this.current?.job.progress?.(answer.progress);
      else
        this.settle(true, (job) =>
          answer.failure === undefined ? job.done(answer.result as never) : job.failed(new Error(answer.failure)),
        );
    });
    this.worker.on('error', (error: Error & { code?: string }) => {
      log.warn({ error: error.message }, 'a worker thread failed');
      this.settle(false, (job) =>
        job.failed(
          error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? new TooHeavy('Looking into this file took more memory than Ovrel allows.')
            : error,
        ),
      );
    });
    this.worker.on('exit', () => this.settle(false, (job) => job.failed(new Error('a worker thread ended'))));
  }

  start(job: Job): void {
    const timer = setTimeout(() => {
      this.settle(false, () => job.failed(new TooHeavy('Looking into this file took longer than Ovrel allows.')));
      void this.stop();
    }, timeFor(job.task));
    this.current = { job, timer };
    const { task } = job;
    this.worker.postMessage(task, [...new Set(bytesOf(task).map((b) => b.buffer as ArrayBuffer))]);
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }

  private settle(usable: boolean, tell: (job: Job) => void): void {
    const { current } = this;
    this.current = undefined;
    if (current) {
      clearTimeout(current.timer);
      tell(current.job);
    }
    this.onFree(this, usable);
  }
}

class WorkerPool {
  private readonly waiting: Job[] = [];
  private readonly threads = new Set<Thread>();
  private readonly idle: Thread[] = [];
  private readonly most: number;

  constructor(most: number) {
    this.most = most;
  }

  run<K extends Task['kind']>(task: TaskOf<K>, progress: Job['progress']): Promise<Results[K]> {
    return new Promise<Results[K]>((resolve, reject) => {
      this.waiting.push({ task, done: resolve, failed: reject, progress });
      this.next();
    });
  }

  async close(): Promise<void> {
    await Promise.all([...this.threads].map((thread) => thread.stop()));
  }

  private next(): void {
    if (!this.waiting.length) return;
    const thread = this.idle.pop() ?? (this.threads.size < this.most ? this.start() : undefined);
    const job = thread && this.waiting.shift();
    if (thread && job) thread.start(job);
  }

  private start(): Thread {
    const thread = new Thread((free, usable) => {
      if (!this.threads.has(free)) return;
      if (usable) this.idle.push(free);
      else {
        this.threads.delete(free);
        const at = this.idle.indexOf(free);
        if (at >= 0) this.idle.splice(at, 1);
      }
      this.next();
    });
    this.threads.add(thread);
    return thread;
  }
}

const holder = globalThis as typeof globalThis & { ovrelWorkers?: Partial<Record<Group, WorkerPool>> };

/** Runs a task in a thread. The bytes that go with it are given away: they cannot be used afterwards. `progress` hears of tasks that say how far they are. */
export function runTask<K extends Task['kind']>(
  task: TaskOf<K>,
  progress?: (soFar: PagesSoFar) => void,
): Promise<Results[K]> {
  const pools = (holder.ovrelWorkers ??= {});
  const group = groupOf(task);
  return (pools[group] ??= new WorkerPool(threadsFor[group])).run(task, progress);
}

/** Ends the threads; the next task starts new ones. */
export async function closeWorkers(): Promise<void> {
  const pools = holder.ovrelWorkers;
  delete holder.ovrelWorkers;
  await Promise.all(Object.values(pools ?? {}).map((pool) => pool.close()));
}
