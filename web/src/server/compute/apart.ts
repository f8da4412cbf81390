/**
 * Tasks in a process of their own, which is served after those that serve people, and whose memory is not theirs. It
 * starts with the first task and ends when there has been nothing to do for a while.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { config } from '../config.ts';
import { log } from '../log.ts';
import type { Asked, Said } from './host.ts';
import type { InputOf, ResultOf, TaskName } from './tasks/index.ts';
import { TooHeavy, type ThreadOptions } from './threads.ts';
import { Abandoned } from './waiting.ts';

/** The process ends after this long without a task, in milliseconds. */
const IDLE = 120_000;

interface Waiting {
  readonly child: ChildProcess;
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: Error) => void;
  readonly progress: ((soFar: never) => void) | undefined;
}

export class Apart {
  private child: ChildProcess | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private lastId = 0;
  private idle: NodeJS.Timeout | undefined;
  private readonly idleTime: number;

  constructor(idleTime = IDLE) {
    this.idleTime = idleTime;
  }

  async run<Name extends TaskName>(
    name: Name,
    input: InputOf<Name>,
    { seconds, progress, gone }: ThreadOptions,
  ): Promise<ResultOf<Name>> {
    clearTimeout(this.idle);
    this.lastId += 1;
    const id = this.lastId;
    const child = this.running();
    const cancel = (): void => {
      this.ask(child, { id, cancel: true });
      this.settle(id)?.reject(new Abandoned('nobody waits for it any more'));
    };
    try {
      return await new Promise<ResultOf<Name>>((resolve, reject) => {
        this.waiting.set(id, { child, resolve: resolve as (value: unknown) => void, reject, progress });
        if (gone?.aborted) return cancel();
        gone?.addEventListener('abort', cancel);
        this.ask(child, { id, name, input, seconds });
      });
    } finally {
      gone?.removeEventListener('abort', cancel);
      this.restSoon();
    }
  }

  /** One clock only: one that was forgotten would end the process in the middle of later work. */
  private restSoon(): void {
    clearTimeout(this.idle);
    if (this.waiting.size === 0) this.idle = setTimeout(() => this.close(), this.idleTime).unref();
  }

  /** Of the process, while there is one. */
  get processId(): number | undefined {
    return this.child?.pid;
  }

  close(): void {
    const { child } = this;
    this.child = undefined;
    clearTimeout(this.idle);
    child?.disconnect();
  }

  private running(): ChildProcess {
    if (this.child?.connected) return this.child;
    // The process runs the source itself, outside the bundle, so the path must not be seen as an import.
    const host = join(/* turbopackIgnore: true */ config.root, 'web', 'src', 'server', 'compute', 'host.ts');
    const child = fork(host, [], { serialization: 'advanced', execArgv: [], env: ownEnvironment() });
    child.on('message', (said: Said) => this.hear(said));
    child.on('error', (error) => log.warn({ error: error.message }, 'the computing process failed'));
    child.once('exit', (code, signal) => this.lost(child, code, signal));
    this.child = child;
    return child;
  }

  private ask(child: ChildProcess, asked: Asked): void {
    // A process that has just ended hears nothing; its end is told to all who wait.
    if (child.connected) child.send(asked, () => undefined);
  }

  private settle(id: number): Waiting | undefined {
    const found = this.waiting.get(id);
    this.waiting.delete(id);
    return found;
  }

  private hear(said: Said): void {
    if ('soFar' in said) this.waiting.get(said.id)?.progress?.(said.soFar as never);
    else if ('value' in said) this.settle(said.id)?.resolve(said.value);
    else if ('heavy' in said) this.settle(said.id)?.reject(new TooHeavy(said.heavy));
    else this.settle(said.id)?.reject(new Error(said.failed));
  }

  /** All that was under way there is lost: as after too much memory, it may work another time. */
  private lost(child: ChildProcess, code: number | null, signal: string | null): void {
    if (this.child === child) this.child = undefined;
    const lost = [...this.waiting].filter(([, waiting]) => waiting.child === child);
    if (lost.length === 0) return;
    log.warn({ code, signal }, 'the computing process ended in the middle of its work');
    for (const [id, { reject }] of lost) {
      this.waiting.delete(id);
      reject(new TooHeavy('Looking into this file took more memory than Ovrel allows.'));
    }
  }
}

/** It computes, and needs no secrets for that. */
const ownEnvironment = (): NodeJS.ProcessEnv => {
  const { PATH, HOME, OVREL_LOG, NODE_ENV } = process.env;
  return { PATH, HOME, OVREL_LOG, OVREL_ROOT: config.root, NODE_ENV };
};
