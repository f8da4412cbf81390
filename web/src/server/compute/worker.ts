/** A worker thread: one task at a time. */
import type { MessagePort } from 'node:worker_threads';
import { Exhausted } from '@ovrel/core';
import '@ovrel/core/node';
import { move, transferableSymbol, valueSymbol } from 'piscina';
import { WithMemory, type Task } from './task.ts';
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
    const made = await task(input, (soFar) => tell({ soFar }));
    return made instanceof WithMemory ? moved({ value: made.value }, made.memory) : { value: made };
  } catch (error) {
    if (error instanceof Exhausted) return { exhausted: error.message };
    throw error;
  } finally {
    port.close();
  }
}

/** Only the outermost of what a thread answers can take memory along. */
const moved = (outcome: Outcome, memory: readonly ArrayBuffer[]): Outcome =>
  move({ [transferableSymbol]: [...memory], [valueSymbol]: outcome }) as never;
