/** What took too long or too much is tried again, after ever longer pauses; it is never kept as a fact. */
import { db } from '../db/pool.ts';
import { delayFact, delayRow, deleteDelay, type DelayRow } from './rows.ts';
import type { ShelfPlace } from './shelf.ts';

/** First and longest pause, in minutes. */
const FIRST = 1;
const MOST = 24 * 60;

/** Set while the pause is not over. */
export async function delayed(fact: string, { contentId, detail }: ShelfPlace): Promise<DelayRow | undefined> {
  const row = await delayRow(db(), contentId, fact, detail);
  return row && row.not_before.getTime() > Date.now() ? row : undefined;
}

export const delayFurther = (fact: string, { contentId, detail }: ShelfPlace, problem: string): Promise<void> =>
  delayFact(db(), contentId, fact, detail, problem, FIRST, MOST);

export const clearDelay = (fact: string, { contentId, detail }: ShelfPlace): Promise<void> =>
  deleteDelay(db(), contentId, fact, detail);
