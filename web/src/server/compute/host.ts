/** The process that computes for one that serves people: it runs the tasks that it is sent in threads. */
import { setPriority } from 'node:os';
import type { TaskName } from './tasks/index.ts';
import { runInThread, TooHeavy } from './threads.ts';
import { Abandoned } from './waiting.ts';

/** What it is asked: to run a task, or not to go on with one. */
export type Asked =
  | {
      readonly id: number;
      readonly name: TaskName;
      readonly input: unknown;
      readonly seconds: number | undefined;
    }
  | { readonly id: number; readonly cancel: true };

export type Said =
  | { readonly id: number; readonly soFar: unknown }
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly heavy: string }
  | { readonly id: number; readonly failed: string };

const under = new Map<number, AbortController>();
const say = (said: Said): void => {
  process.send?.(said);
};

async function run({ id, name, input, seconds }: Extract<Asked, { name: TaskName }>): Promise<void> {
  const controller = new AbortController();
  under.set(id, controller);
  const progress = (soFar: unknown): void => say({ id, soFar });
  try {
    // What came from another process can be given to a thread only as memory of one's own.
    const own = structuredClone(input) as never;
    const value = await runInThread(name, own, { seconds, progress, gone: controller.signal });
    say({ id, value });
  } catch (error) {
    if (error instanceof Abandoned) return;
    if (error instanceof TooHeavy) say({ id, heavy: error.message });
    else say({ id, failed: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  } finally {
    under.delete(id);
  }
}

process.on('message', (asked: Asked) => {
  if ('cancel' in asked) under.get(asked.id)?.abort();
  else void run(asked);
});
process.on('disconnect', () => process.exit(0));
// After whoever serves people, before work in the background (10): somebody waits for it.
setPriority(5);
