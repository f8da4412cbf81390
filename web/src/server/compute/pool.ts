/**
 * Where untrusted bytes are looked into: in threads, of another process where this one serves people. What waits takes
 * turns; bytes are loaded when their turn has come.
 */
import { config } from '../config.ts';
import { personNow } from '../ledger/origin.ts';
import { log } from '../log.ts';
import { single } from '../single.ts';
import { Apart } from './apart.ts';
import { loaded, sizeOf, type Unloaded } from './task.ts';
import type { InputOf, ResultOf, TaskName } from './tasks/index.ts';
import { closeThreads, groupOf, runInThread, threadsFor, type RunOptions } from './threads.ts';
import { SERVER, Turns } from './turns.ts';
import { goneNow } from './waiting.ts';

export { SECONDS_A_MEGABYTE, TooHeavy } from './threads.ts';

/** Work that may wait for one person, and for all together. */
const MOST_EACH = 32;
const MOST_IN_ALL = 256;

/**
 * Runs a task. The bytes that go with it are given away: they cannot be used afterwards. Throws TooHeavy past its
 * limits, Busy where too much waits already, and Abandoned where nobody waits for it any more.
 */
export async function runTask<Name extends TaskName>(
  name: Name,
  given: Unloaded<InputOf<Name>>,
  options: RunOptions = {},
): Promise<ResultOf<Name>> {
  // What arrives is stored, whoever has gone meanwhile.
  if (groupOf(name) !== 'look')
    return runInThread(name, await loaded<InputOf<Name>>(given), { ...options, gone: undefined });
  const gone = goneNow();
  const asked = performance.now();
  const end = await turns().take(personNow() ?? SERVER, sizeOf(given), gone);
  const begun = performance.now();
  try {
    const input = await loaded<InputOf<Name>>(given);
    return config.computesApart
      ? await apart().run(name, input, { ...options, gone })
      : await runInThread(name, input, { ...options, gone });
  } finally {
    end();
    tellIfLong(name, begun - asked, performance.now() - begun);
  }
}

/** Milliseconds that whoever waits for a result notices. */
const LONG = 10_000;

/** For whoever has to find out what made people wait. */
function tellIfLong(task: TaskName, waited: number, took: number): void {
  if (waited + took < LONG) return;
  log.warn({ task, waited: Math.round(waited), took: Math.round(took) }, 'a computation made somebody wait');
}

const turns = (): Turns =>
  single('turns', () => new Turns({ places: threadsFor.look, mostEach: MOST_EACH, mostInAll: MOST_IN_ALL }));

const apart = (): Apart => single('apart', () => new Apart());

/** Ends threads and processes; the next task starts new ones. */
export async function closeWorkers(): Promise<void> {
  apart().close();
  await closeThreads();
}
