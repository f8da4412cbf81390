/** One thing computed about a content or a pair, immutable, kept once. */
import { TooHeavy } from '../compute/pool.ts';
import { Shared } from '../compute/waiting.ts';
import { log } from '../log.ts';
import { single } from '../single.ts';
import type { Codec } from './codec.ts';
import { clearDelay, delayed, delayFurther } from './delays.ts';
import { contentShelf, type ShelfPlace, type Shelf } from './shelf.ts';

export interface Fact<Key, Value> {
  readonly name: string;
  /** Raised when the value would come out otherwise: older ones are computed anew. */
  readonly version: number;
  /** What it is kept under: the content that it is about, and what else tells one value from another. */
  placeOf(key: Key): ShelfPlace;
  readonly codec: Codec<Value>;
  /** Throws TooHeavy where time or memory did not suffice, which is never kept. */
  compute(key: Key): Promise<Value>;
  /** Where values are kept: with the content, unless it says otherwise. */
  readonly shelf?: Shelf;
}

export interface Asking {
  /** Somebody asked for it to be tried once more, whenever it failed last. */
  readonly again?: boolean;
}

/** Two requests for the same result in one process wait for one computation. */
const shared = (): Shared => single('facts under way', () => new Shared());

/** The value as it is kept; undefined where there is none, or where what is kept is no such value any more. */
export async function known<Key, Value>(fact: Fact<Key, Value>, key: Key): Promise<{ value: Value } | undefined> {
  const place = fact.placeOf(key);
  const kept = await shelfOf(fact).read(place, fact);
  if (!kept) return undefined;
  try {
    return { value: fact.codec.decode(kept) };
  } catch (error) {
    log.warn({ fact: fact.name, content: place.contentId, error: String(error) }, 'a kept fact is computed anew');
    await shelfOf(fact).remove(place, fact);
    return undefined;
  }
}

const shelfOf = <Key, Value>(fact: Fact<Key, Value>): Shelf => fact.shelf ?? contentShelf;

/**
 * The value, from what is kept or computed now. Throws TooHeavy where that takes too long or too much; it is tried
 * again later.
 */
export async function computed<Key, Value>(fact: Fact<Key, Value>, key: Key, { again }: Asking = {}): Promise<Value> {
  const found = await known(fact, key);
  if (found) return found.value;
  const place = fact.placeOf(key);
  return shared().once(`${fact.name} ${place.contentId} ${place.detail}`, async () => {
    const wait = again ? undefined : await delayed(fact.name, place);
    if (wait) throw new TooHeavy(wait.problem);
    try {
      const value = await fact.compute(key);
      await shelfOf(fact).write(place, fact, fact.codec.encode(value));
      await clearDelay(fact.name, place);
      return value;
    } catch (error) {
      if (error instanceof TooHeavy) await delayFurther(fact.name, place, error.message);
      throw error;
    }
  });
}

/** What `work` gives, or something else where it took too long or too much. */
export async function unlessTooHeavy<Value, Other>(
  work: Promise<Value>,
  otherwise: (error: TooHeavy) => Other | Promise<Other>,
): Promise<Value | Other> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof TooHeavy) return otherwise(error);
    throw error;
  }
}
