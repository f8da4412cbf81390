/**
 * Wrong passwords, counted where they come from: nobody can shut somebody else's door from outside. A browser in
 * which somebody has signed in before is counted by itself. Each time that attempts run out, the pause is twice as
 * long.
 */
import { createHash } from 'node:crypto';
import { RateLimiterPostgres } from 'rate-limiter-flexible';
import { config } from '../config.ts';
import { db } from '../db/pool.ts';
import { Problem } from '../problem.ts';
import { single } from '../single.ts';

const MINUTE = 60;
const FIRST_PAUSE = 15 * MINUTE;
const DAY = 24 * 60 * MINUTE;
/** From one address, for all names together: some share one. */
const FROM_ONE_ADDRESS = 100;

/** Counters and pauses are in one table, for all processes. */
const limiter = (keyPrefix: string): RateLimiterPostgres =>
  single(`limiter ${keyPrefix}`, () => {
    const table = { storeClient: db(), tableName: 'sign_in_attempt', tableCreated: true };
    return new RateLimiterPostgres({ ...table, keyPrefix, points: 1, duration: DAY });
  });
const counts = (): RateLimiterPostgres => limiter('count');
const pauses = (): RateLimiterPostgres => limiter('pause');

const digest = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Something whose wrong attempts are counted together. */
interface Counted {
  readonly key: string;
  /** Attempts until a pause. */
  readonly most: number;
}

/** Where somebody signs in from: an address, or a browser that is known to be theirs. */
export interface From {
  readonly address: string;
  readonly browser: string | undefined;
}

/** What an attempt for a sign-in name is counted with. */
export function countedFor(name: string, { address, browser }: From): readonly Counted[] {
  if (browser !== undefined) return [{ key: digest(`browser ${browser} ${name}`), most: config.signInAttempts }];
  return [
    { key: digest(`name ${name} ${address}`), most: config.signInAttempts },
    { key: digest(`address ${address}`), most: FROM_ONE_ADDRESS },
  ];
}

/** Wrong passwords that a person may give for documents. */
const FOR_DOCUMENTS = 20;

export const countedForDocuments = (personId: string): readonly Counted[] => [
  { key: digest(`documents ${personId}`), most: FOR_DOCUMENTS },
];

/** Throws a Problem while a pause lasts. */
export async function refusePaused(
  counted: readonly Counted[],
  sentence = 'Too many attempts from here.',
): Promise<void> {
  for (const { key } of counted) {
    const pause = await pauses().get(key);
    if (!pause || pause.msBeforeNext <= 0) continue;
    const minutes = Math.max(1, Math.ceil(pause.msBeforeNext / 60_000));
    throw new Problem(
      429,
      'too-many-attempts',
      `${sentence} Try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}.`,
    );
  }
}

export async function countWrong(counted: readonly Counted[]): Promise<void> {
  for (const { key, most } of counted) {
    const { consumedPoints } = await counts().penalty(key);
    if (consumedPoints % most !== 0) continue;
    const times = consumedPoints / most;
    await pauses().block(key, Math.min(DAY, FIRST_PAUSE * 2 ** (times - 1)));
  }
}

export async function forgetWrong(counted: readonly Counted[]): Promise<void> {
  for (const { key } of counted) await counts().delete(key);
}
