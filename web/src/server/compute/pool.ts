/** Worker threads that look into untrusted bytes, with a limit on time and memory. */
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { config } from '../config.ts';
import { log } from '../log.ts';
import type { Results, Task } from './tasks.ts';

/** The computation was stopped because it took too long or too much memory. */
export class TooHeavy extends Error {}

type TaskOf<K extends Task['kind']> = Extract<Task, { kind: K }>;

interface Job {
  readonly task: Task;
  readonly done: (result: never) => void;
  readonly failed: (error: Error) => void;
}

const WORKERS = 2;
const MEMORY_MB = 2048;
/** Allowed time in milliseconds: a base, and two seconds a megabyte. */
const timeFor = (task: Task): number => {
  const bytes = task.kind === 'look' ? task.source.bytes.length : task.a.bytes.length + task.b.bytes.length;
  return 15_000 + 2_000 * Math.ceil(bytes / 1024 ** 2);
};

class WorkerPool {
  private readonly waiting: Job[] = [];
  private readonly idle: Worker[] = [];
  private running = 0;

  run<K extends Task['kind']>(task: TaskOf<K>): Promise<Results[K]> {
    return new Promise<Results[K]>((resolve, reject) => {
      this.waiting.push({ task, done: resolve as (result: never) => void, failed: reject });
      this.next();
    });
  }

  private next(): void {
    if (this.running >= WORKERS) return;
    const job = this.waiting.shift();
    if (!job) return;
    this.running++;
    const worker = this.idle.pop() ?? this.start();
    const release = (reuse: boolean): void => {
      clearTimeout(timer);
      worker.removeAllListeners();
      if (reuse) {
        worker.unref();
        this.idle.push(worker);
      } else void worker.terminate();
      this.running--;
      this.next();
    };
    const timer = setTimeout(() => {
      release(false);
      job.failed(new TooHeavy('Looking into this file took longer than Ovrel allows.'));
    }, timeFor(job.task));
    worker.ref();
    worker.once('message', (answer: { result?: never; failure?: string }) => {
      release(true);
      if (answer.failure === undefined) job.done(answer.result as never);
      else job.failed(new Error(answer.failure));
    });
    worker.once('error', (error: Error & { code?: string }) => {
      log.warn({ error: error.message }, 'a worker thread failed');
      release(false);
      job.failed(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new TooHeavy('Looking into this file took more memory than Ovrel allows.') : error);
    });
    const { task } = job;
    const sources = task.kind === 'look' ? [task.source] : [task.a, task.b];
    worker.postMessage(task, [...new Set(sources.map((s) => s.bytes.buffer as ArrayBuffer))]);
  }

  private start(): Worker {
    // The thread runs the source itself, outside the bundle, so the path must not be seen as an import.
    return new Worker(join(/* turbopackIgnore: true */ config.root, 'web', 'src', 'server', 'compute', 'worker.ts'), {
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB }, env: { OVREL_LOG: process.env['OVREL_LOG'] ?? 'warn' },
    });
  }
}

const holder = globalThis as typeof globalThis & { ovrelWorkers?: WorkerPool };

export const runTask = <K extends Task['kind']>(task: TaskOf<K>): Promise<Results[K]> => (holder.ovrelWorkers ??= new WorkerPool()).run(task);
