/** A worker thread: one task at a time. */
import type { MessagePort } from 'node:worker_threads';
import { Exhausted } from '@ovrel/core';
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

/** What a task came to. Errors lose their class on the way between threads. */
export type Outcome = { readonly value: unknown } | { readonly exhausted: string };

export default async function perform({ name, input, port }: Order): Promise<Outcome> {
  const tell = (told: Told): void => port.postMessage(told);
  tell({ begun: true });
  try {
    const task = tasks[name] as Task<unknown, unknown>;
    return { value: await task(input, (soFar) => tell({ soFar })) };
  } catch (error) {
    if (error instanceof Exhausted) return { exhausted: error.message };
    throw error;
  } finally {
    port.close();
  }
}
