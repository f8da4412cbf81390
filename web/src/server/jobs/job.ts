/** One kind of background work. A new one is a file in `kinds/` and a line in `registry.ts`. */
import type { z } from 'zod';
import type { NewJob } from './queue.ts';

/** What a job tells while it works; telling throws Cancelled once somebody has cancelled it. */
export type Tell = (doing: string, done: number, total: number | null) => Promise<void>;

export interface JobContext {
  readonly tell: Tell;
  /** Asks for other work. */
  readonly enqueue: (job: NewJob) => Promise<unknown>;
}

export interface JobKind<Data = unknown> {
  readonly kind: string;
  /** What it needs to know; empty for work on all of the store. */
  readonly schema: z.ZodType<Data>;
  /** What people read where the job has no title of its own. */
  readonly title: string;
  /** Larger goes first. */
  readonly priority: number;
  /** Times that it is tried again after a failure. */
  readonly retries: number;
  /** When it starts by itself (cron, UTC). */
  readonly cron?: string;
  /** Carried out side by side in one worker; one at a time where it is left out. */
  readonly atOnce?: number;
  /** Is about the store and names no files, and people who tend the store can start it. */
  readonly ofStore?: true;
  run: (data: Data, context: JobContext) => Promise<unknown>;
  /** What came of it, from its report, in words that follow "done: ". */
  say?(report: unknown): string | undefined;
}

/** Keeps the type of the data between schema and run. */
export const job = <Data>(kind: JobKind<Data>): JobKind => kind as JobKind;
