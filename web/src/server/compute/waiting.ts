/** Who waits for a computation. What nobody waits for any more is cancelled: whoever asked has gone. */
import { setTimeout } from 'node:timers';
import { single } from '../single.ts';
import { AsyncLocalStorage } from 'node:async_hooks';

/** Nobody waits for the result any more. */
export class Abandoned extends Error {}

const storage = (): AsyncLocalStorage<AbortSignal | undefined> =>
  single('who waits', () => new AsyncLocalStorage<AbortSignal | undefined>());

/** Aborts when nobody waits any more for what is being computed; undefined where the server itself wants it. */
export const goneNow = (): AbortSignal | undefined => storage().getStore();

/** Does `work` for somebody who may go away: `gone` aborts then. */
export const waitedForBy = <T>(gone: AbortSignal | undefined, work: () => T): T => storage().run(gone, work);

/** So long a computation goes on without anybody: who loads a page anew finds it going on. Milliseconds. */
const GRACE = 10_000;

interface UnderWay<Value> {
  readonly result: Promise<Value>;
  readonly waiters: Waiters;
}

/** Those who wait for one computation, which goes on as long as one of them is there. */
class Waiters {
  private readonly controller = new AbortController();
  private readonly grace: number;
  private count = 0;
  private timer: NodeJS.Timeout | undefined;

  constructor(grace: number) {
    this.grace = grace;
  }

  get gone(): AbortSignal {
    return this.controller.signal;
  }

  /** Gives what is to be called once this one does not wait any more. */
  join(gone: AbortSignal | undefined): () => void {
    clearTimeout(this.timer);
    this.count += 1;
    let hasLeft = false;
    const leave = (): void => {
      if (hasLeft) return;
      hasLeft = true;
      gone?.removeEventListener('abort', leave);
      this.count -= 1;
      if (this.count === 0) this.timer = setTimeout(() => this.controller.abort(), this.grace).unref();
    };
    if (gone?.aborted) leave();
    else gone?.addEventListener('abort', leave);
    return leave;
  }

  end(): void {
    clearTimeout(this.timer);
  }
}

/** Computations under way, by what they compute: whoever asks for the same waits for the same. */
export class Shared {
  private readonly running = new Map<string, UnderWay<unknown>>();
  private readonly grace: number;

  constructor(grace = GRACE) {
    this.grace = grace;
  }

  async once<Value>(key: string, work: () => Promise<Value>): Promise<Value> {
    const found = (this.running.get(key) as UnderWay<Value> | undefined) ?? this.begin(key, work);
    const leave = found.waiters.join(goneNow());
    try {
      return await found.result;
    } finally {
      leave();
    }
  }

  private begin<Value>(key: string, work: () => Promise<Value>): UnderWay<Value> {
    const waiters = new Waiters(this.grace);
    const result = waitedForBy(waiters.gone, work).finally(() => {
      waiters.end();
      if (this.running.get(key) === underWay) this.running.delete(key);
    });
    const underWay = { result, waiters };
    this.running.set(key, underWay);
    // Whoever asks after it was given up begins anew.
    waiters.gone.addEventListener('abort', () => {
      if (this.running.get(key) === underWay) this.running.delete(key);
    });
    return underWay;
  }
}
