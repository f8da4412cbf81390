/**
 * A check-in that is sent again, because its answer was lost, gets its first answer and makes nothing. The sender gives
 * each check-in a key of its own; what came of it is kept with what it made, in one transaction.
 */
import { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { Problem } from '../problem.ts';
import type { Arrived, Incoming } from './arrival.ts';
import { attemptRow, claimAttempt, dropOldAttempts, setOutcome } from './attempt-rows.ts';

export interface Attempt<T> {
  readonly by: Person;
  /** None: the sender does not ask again. */
  readonly key: string | undefined;
  /** What is attempted, such as `check in <file>`. */
  readonly what: string;
  /** What is kept, small: ids from which the answer is made. */
  readonly outcome: z.ZodType<T>;
}

/** Another request of the same attempt landed while this one was under way. */
class LandedMeanwhile extends Error {}

/**
 * Does `work` once: its outcome, or that of the first time. `discard` takes what was sent again off the line.
 * Throws a Problem where the key was used for something else.
 */
export async function once<T>(attempt: Attempt<T>, work: () => Promise<T>, discard: () => Promise<void>): Promise<T> {
  const before = await outcomeOf(attempt);
  if (before !== undefined) {
    await discard();
    return before;
  }
  try {
    return await work();
  } catch (error) {
    // What the first request made stands in the way of the second: a newer version, a name that is taken.
    const meanwhile = await outcomeOf(attempt);
    if (meanwhile !== undefined) return meanwhile;
    throw error;
  }
}

async function outcomeOf<T>({ by, key, what, outcome }: Attempt<T>): Promise<T | undefined> {
  if (key === undefined) return undefined;
  const row = await attemptRow(db(), by.id, key);
  if (!row) return undefined;
  if (row.what !== what)
    throw new Problem(
      422,
      'key-used',
      'The key of this check-in was used for something else already. Each check-in needs a key of its own.',
    );
  return outcome.parse(row.outcome);
}

/**
 * The transaction in which what has arrived becomes versions, and its outcome is kept; afterwards nothing of what
 * arrived is kept aside.
 */
export async function landing<T>(
  { by, key, what }: Attempt<T>,
  arrived: readonly Arrived[],
  work: (client: Client) => Promise<T>,
): Promise<T> {
  try {
    return await transaction(async (client) => {
      if (key === undefined) return work(client);
      if (!(await claimAttempt(client, by.id, key, what))) throw new LandedMeanwhile();
      const outcome = await work(client);
      await setOutcome(client, by.id, key, outcome);
      await dropOldAttempts(client);
      return outcome;
    }, 'upload');
  } finally {
    for (const { spool } of arrived) await spool.end();
  }
}

/** Reads what is sent, and keeps none of it. */
export async function discardFile({ bytes }: Incoming): Promise<void> {
  const reader = bytes[Symbol.asyncIterator]();
  while (!(await reader.next()).done);
}

export async function discardFiles(files: AsyncIterable<Incoming>): Promise<void> {
  for await (const file of files) await discardFile(file);
}
