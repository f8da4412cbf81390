/**
 * Which files of a folder have been saved for good: programs write in pieces, through other names, and twice; a file
 * counts once it has stayed as it is for a while, is not empty, and has a name that people give.
 */

/** What a look at a file tells, without reading it. */
export interface Glimpse {
  readonly size: number;
  /** When it was changed, in milliseconds since 1970. */
  readonly at: number;
  /** Of the file system: another one is another file under the same name. */
  readonly inode: number;
}

/** Names that programs make and take away again: temporary files, locks, their own copies beside. */
const SCRATCH: readonly RegExp[] = [
  /^\./,
  /^~\$/,
  /^\.?~lock\./,
  /~$/,
  /\.(?:tmp|temp|bak|backup|old|swp|swo|part|partial|crdownload|lock|dwl2?|sv\$|ac\$|autosave)$/i,
  /^4913$/,
  /^#.*#$/,
];

export const isScratch = (path: string): boolean =>
  path.split('/').some((name) => SCRATCH.some((pattern) => pattern.test(name)));

interface Watched {
  readonly glimpse: Glimpse;
  /** Since when it has been so. */
  readonly since: number;
  readonly told: boolean;
}

export const isSameGlimpse = (a: Glimpse, b: Glimpse): boolean =>
  a.size === b.size && a.at === b.at && a.inode === b.inode;

export class Settling {
  private readonly quiet: number;
  private readonly watched = new Map<string, Watched>();

  /** `quiet`: how long a file must stay as it is, in milliseconds. */
  constructor(quiet: number) {
    this.quiet = quiet;
  }

  /** What is there at the beginning has been seen, and is told only once it changes. */
  begin(now: number, seen: ReadonlyMap<string, Glimpse>): void {
    for (const [path, glimpse] of seen) this.watched.set(path, { glimpse, since: now, told: true });
  }

  /** Paths that are settled at this moment and have not been told of. Time may jump; waiting begins anew then. */
  settled(now: number, seen: ReadonlyMap<string, Glimpse>): string[] {
    const found: string[] = [];
    for (const [path, glimpse] of seen) {
      if (isScratch(path)) continue;
      const before = this.watched.get(path);
      if (!before || !isSameGlimpse(before.glimpse, glimpse) || now < before.since) {
        this.watched.set(path, { glimpse, since: now, told: false });
        continue;
      }
      if (before.told || glimpse.size === 0 || now - before.since < this.quiet) continue;
      this.watched.set(path, { ...before, told: true });
      found.push(path);
    }
    // A name that is gone may come back with the next save.
    for (const path of this.watched.keys()) if (!seen.has(path)) this.forgetLater(path, now);
    return found;
  }

  /** It could not be read as it is: it is told again. */
  again(path: string): void {
    const before = this.watched.get(path);
    if (before) this.watched.set(path, { ...before, told: false });
  }

  /** Whether something changed that is not settled yet. */
  get isWaiting(): boolean {
    return [...this.watched.values()].some(({ told, glimpse }) => !told && glimpse.size > 0);
  }

  private forgetLater(path: string, now: number): void {
    const before = this.watched.get(path);
    if (before && now - before.since > GONE_FOR_GOOD) this.watched.delete(path);
  }
}

/** In milliseconds. */
const GONE_FOR_GOOD = 60_000;
