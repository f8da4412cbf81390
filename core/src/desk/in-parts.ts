/** Large contents travel in parts: when the connection breaks, or the sender ends, sending goes on where it stopped. */

/** Smaller contents are sent in one go, in bytes. */
export const IN_PARTS = 16 * 1024 * 1024;
const PART = 8 * 1024 * 1024;

/** Waits before the server is asked how far it is, in milliseconds; they begin anew with each part that arrives. */
const ASKED_AFTER = [500, 2000, 5000, 10_000];

/** What the server has of a content. */
export interface OnItsWay {
  readonly id: string;
  readonly size: number;
  readonly received: number;
}

/** How one asks the server, and what one remembers. */
export interface Line {
  /** The id of an earlier try, where there was one. */
  readonly earlier: string | undefined;
  readonly remember: (id: string) => void;
  readonly begin: () => Promise<OnItsWay>;
  readonly look: (id: string) => Promise<OnItsWay>;
  /** Sends the bytes from `at` up to, but not with, `end`. */
  readonly send: (id: string, at: number, end: number) => Promise<OnItsWay>;
  /** Whether another try may do. */
  readonly isPassing: (error: unknown) => boolean;
  readonly pause: (ms: number) => Promise<unknown>;
}

/** Brings a content of so many bytes to the server and gives the id that stands for it. Throws what the line throws. */
export async function sentInParts(size: number, line: Line): Promise<string> {
  let now = (await earlierOf(size, line)) ?? (await line.begin());
  line.remember(now.id);
  let tries = 0;
  for (let isSure = true; now.received < size;) {
    try {
      if (isSure) {
        now = await line.send(now.id, now.received, Math.min(size, now.received + PART));
        tries = 0;
      } else {
        now = await line.look(now.id);
        isSure = true;
      }
    } catch (error) {
      const ms = ASKED_AFTER[tries];
      if (ms === undefined || !line.isPassing(error)) throw error;
      isSure = false;
      tries++;
      await line.pause(ms);
    }
  }
  return now.id;
}

/** What is there of an earlier try; undefined where the server has given it up. */
async function earlierOf(size: number, { earlier, look, isPassing }: Line): Promise<OnItsWay | undefined> {
  if (earlier === undefined) return undefined;
  try {
    const there = await look(earlier);
    return there.size === size ? there : undefined;
  } catch (error) {
    if (isPassing(error)) throw error;
    return undefined;
  }
}
