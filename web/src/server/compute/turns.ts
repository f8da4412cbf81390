/**
 * Who comes next. People take turns, each with what is smallest first; large work never takes the last place, so that
 * what is small is looked at meanwhile. Nothing is loaded into memory before its turn comes.
 */
import { Busy } from '../db/pool.ts';
import { Abandoned } from './waiting.ts';

/** Bytes from which work counts as large. */
const LARGE = 4 * 1024 * 1024;

export interface Bounds {
  /** Work at the same time. */
  readonly places: number;
  /** Work that may wait for one person, and for all. */
  readonly mostEach: number;
  readonly mostInAll: number;
}

interface Waiting {
  readonly size: number;
  readonly begin: () => void;
}

/** In whose name the server works by itself: it asks for no more than its queue gives it. */
export const SERVER = 'the server itself';

export class Turns {
  private readonly bounds: Bounds;
  private running = 0;
  private runningLarge = 0;
  /** By person, in the order in which they come next. */
  private readonly waiting = new Map<string, Waiting[]>();

  constructor(bounds: Bounds) {
    this.bounds = bounds;
  }

  /**
   * Waits for a turn; gives what ends it. Throws Busy where too much waits already, and Abandoned once whoever waits
   * has `gone`.
   */
  async take(who: string, size: number, gone?: AbortSignal): Promise<() => void> {
    if (!this.fits(size) || this.waiting.size > 0) await this.wait(who, size, gone);
    else this.begin(size);
    let ended = false;
    return () => {
      if (ended) return;
      ended = true;
      this.end(size);
    };
  }

  private fits(size: number): boolean {
    if (this.running >= this.bounds.places) return false;
    return size < LARGE || this.runningLarge < Math.max(1, this.bounds.places - 1);
  }

  private begin(size: number): void {
    this.running += 1;
    if (size >= LARGE) this.runningLarge += 1;
  }

  private end(size: number): void {
    this.running -= 1;
    if (size >= LARGE) this.runningLarge -= 1;
    this.next();
  }

  private wait(who: string, size: number, gone: AbortSignal | undefined): Promise<void> {
    const own = this.waiting.get(who) ?? [];
    const all = [...this.waiting.values()].reduce((n, list) => n + list.length, 0);
    if (who !== SERVER && (own.length >= this.bounds.mostEach || all >= this.bounds.mostInAll))
      throw new Busy('too much waits to be looked into');
    return new Promise((begun, refused) => {
      const giveUp = (): void => {
        this.drop(who, work);
        refused(new Abandoned('nobody waits for it any more'));
      };
      const begin = (): void => {
        gone?.removeEventListener('abort', giveUp);
        begun();
      };
      const work = { size, begin };
      own.push(work);
      own.sort((a, b) => a.size - b.size);
      this.waiting.set(who, own);
      if (gone?.aborted) giveUp();
      else gone?.addEventListener('abort', giveUp);
      this.next();
    });
  }

  private drop(who: string, work: Waiting): void {
    const rest = this.waiting.get(who)?.filter((one) => one !== work) ?? [];
    if (rest.length > 0) this.waiting.set(who, rest);
    else this.waiting.delete(who);
  }

  /** Begins all that fits now. */
  private next(): void {
    for (let found = this.first(); found; found = this.first()) {
      const [who, work] = found;
      const rest = this.waiting.get(who)?.filter((one) => one !== work) ?? [];
      // Whoever was served comes last.
      this.waiting.delete(who);
      if (rest.length > 0) this.waiting.set(who, rest);
      this.begin(work.size);
      work.begin();
    }
  }

  private first(): readonly [string, Waiting] | undefined {
    for (const [who, list] of this.waiting) {
      const work = list.find((one) => this.fits(one.size));
      if (work) return [who, work];
    }
    return undefined;
  }
}
