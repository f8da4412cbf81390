/** A worker thread: one task at a time. */
import type { MessagePort } from 'node:worker_threads';
import '@ovrel/core/node';
import type { Task } from './task.ts';
import { tasks, type TaskName } from './tasks/index.ts';

export interface Order {
  readonly name: TaskName;
  readonly input: unknown;
  /** Hears that the task begins, and what it tells. */
  readonly port: MessagePort;
}

export type Told = { readonly begun: true } | { readonly soFar: unknown };

export default async function perform({ name, input, port }: Order): Promise<unknown> {
  const tell = (told: Told): void => port.postMessage(told);
  tell({ begun: true });
  try {
    const task = tasks[name] as Task<unknown, unknown>;
    return await task(input, (soFar) => tell({ soFar }));
  } finally {
    port.close();
  }
}
