/** ovrel desk watch: what programs save in the folder becomes versions, one a save, while it runs. */
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { isScratch, Settling, type Glimpse } from '@ovrel/core';
import { Away, Refused, type Api } from './api.ts';
import { readState, writeState } from './folder.ts';
import { Outbox, type Parcel } from './outbox.ts';

type Print = (text: string) => Promise<void>;

export interface Watching {
  /** How long a file must stay as it is, in milliseconds. */
  readonly quiet: number;
  /** Backups at intervals instead of autosaves, in milliseconds. */
  readonly backupEvery: number | undefined;
  /** Ends once nothing is left to do: for scripts. */
  readonly once: boolean;
  readonly signal: AbortSignal;
}

/** Between two looks at the folder, and waits while the server is away, in milliseconds. */
const LOOK = 250;
const TRIES = [1000, 2000, 5000, 15_000];
/** Files that are looked at; a folder with more is no desk. */
const MOST_FILES = 100_000;

const units: Readonly<Record<string, number>> = { ms: 1, s: 1000, m: 60_000, h: 3_600_000 };

/** "90s", "60m", "2h" in milliseconds. Throws Refused for anything else. */
export function milliseconds(text: string): number {
  const found = /^(\d+(?:\.\d+)?)(ms|s|m|h)$/.exec(text.trim());
  const value = found ? Number(found[1]) * (units[found[2] as string] ?? NaN) : NaN;
  if (!(value > 0)) throw new Refused(`“${text}” is no length of time; say 30s, 60m or 2h.`);
  return value;
}

export async function watch(folder: string, api: Api, how: Watching, print: Print): Promise<number> {
  const watcher = new Watcher(folder, api, how, print);
  await watcher.begin();
  await print(`Watching ${folder}. Each save of a file that Ovrel knows becomes a version. Ctrl+C ends it.`);
  while (!how.signal.aborted) {
    watcher.look();
    await watcher.send();
    if (how.once && watcher.isIdle) break;
    await setTimeout(LOOK, undefined, { signal: how.signal }).catch(() => undefined);
  }
  return watcher.left === 0 ? 0 : 1;
}

/** A file of the project; its newest version, where the server has said it. */
interface KnownFile {
  readonly fileId: string;
  readonly newest?: string;
}

class Watcher {
  private readonly folder: string;
  private readonly api: Api;
  private readonly how: Watching;
  private readonly print: Print;
  private readonly outbox: Outbox;
  private readonly settling: Settling;
  private readonly files = new Map<string, KnownFile>();
  private hasLearned = false;
  /** By path: the content that is on the server or on its way there. */
  private readonly known = new Map<string, string>();
  /** By file: the version that its last save became. */
  private readonly last = new Map<string, string>();
  /** By path: when the last backup of it was made. */
  private readonly backedUp = new Map<string, number>();
  private readonly unknown = new Set<string>();
  private tries = 0;
  private notBefore = 0;
  private lost = false;

  constructor(folder: string, api: Api, how: Watching, print: Print) {
    this.folder = folder;
    this.api = api;
    this.how = how;
    this.print = print;
    this.outbox = new Outbox(folder);
    this.settling = new Settling(how.quiet);
  }

  get left(): number {
    return this.outbox.waiting.length;
  }

  get isIdle(): boolean {
    return this.left === 0 && !this.settling.isWaiting;
  }

  /** What was changed before it ran is a save, too. */
  async begin(): Promise<void> {
    const { bases } = readState(this.folder);
    // What the desk itself knows is enough to keep saves while the server is away.
    for (const [path, { fileId, sha256 }] of Object.entries(bases)) {
      this.files.set(path, { fileId });
      this.known.set(path, sha256);
    }
    await this.learnFiles().catch(async (error: unknown) => {
      if (!(error instanceof Away)) throw error;
      await this.print(`${error.message} Saves are kept here meanwhile.`);
    });
    for (const { path, sha256 } of this.outbox.waiting) this.known.set(path, sha256);
  }

  /** Which files the project has. */
  private async learnFiles(): Promise<void> {
    const { project } = readState(this.folder);
    for (const { path, fileId, newest } of await this.api.files(project.id)) {
      this.files.set(path, { fileId, newest: newest.id });
      if (!this.known.has(path)) this.known.set(path, newest.sha256);
    }
    this.hasLearned = true;
  }

  look(): void {
    const seen = this.glimpses();
    if (!seen) return;
    for (const path of this.settling.settled(Date.now(), seen)) this.take(path);
  }

  /** Undefined while the folder is not there. */
  private glimpses(): Map<string, Glimpse> | undefined {
    const seen = new Map<string, Glimpse>();
    try {
      for (const path of pathsIn(this.folder)) {
        if (seen.size >= MOST_FILES) break;
        const stat = statSync(join(this.folder, path), { throwIfNoEntry: false });
        if (stat?.isFile()) seen.set(path, { size: stat.size, at: stat.mtimeMs, inode: stat.ino });
      }
    } catch (error) {
      if (!this.lost)
        void this.print(`${this.folder} cannot be read just now (${(error as Error).message}). It is waited for.`);
      this.lost = true;
      return undefined;
    }
    this.lost = false;
    return seen;
  }

  private take(path: string): void {
    const file = this.files.get(path);
    if (!file) {
      if (!this.unknown.has(path))
        void this.print(`${path}: Ovrel does not know this file. “ovrel desk checkin --new” brings it in.`);
      this.unknown.add(path);
      return;
    }
    if (this.isTooSoon(path)) {
      this.settling.again(path);
      return;
    }
    const taken = this.outbox.take(join(this.folder, path), this.known.get(path));
    if (taken === 'busy') this.settling.again(path);
    if (taken === 'busy' || taken === 'same') return;
    const { fileId } = file;
    const isBehind = this.outbox.waiting.some((parcel) => parcel.fileId === fileId);
    const before = this.last.get(fileId) ?? readState(this.folder).bases[path]?.versionId ?? file.newest;
    const kind = this.how.backupEvery === undefined ? 'autosave' : 'backup';
    this.outbox.add({ ...taken, path, fileId, base: isBehind ? undefined : before, kind });
    this.known.set(path, taken.sha256);
    this.backedUp.set(path, Date.now());
  }

  private isTooSoon(path: string): boolean {
    const every = this.how.backupEvery;
    const before = this.backedUp.get(path);
    if (every === undefined || before === undefined) return false;
    const passed = Date.now() - before;
    return passed >= 0 && passed < every;
  }

  /** All that waits, in order. While the server is away nothing is lost. */
  async send(): Promise<void> {
    if (Date.now() < this.notBefore) return;
    if (!this.hasLearned && !(await this.hasComeBack())) return;
    for (let [parcel] = this.outbox.waiting; parcel && !this.how.signal.aborted; [parcel] = this.outbox.waiting) {
      try {
        await this.sendOne(parcel);
        this.tries = 0;
      } catch (error) {
        if (error instanceof Away) {
          if (this.tries === 0)
            await this.print(
              `${error.message} ${this.left === 1 ? 'One save waits' : `${this.left} saves wait`} here.`,
            );
          this.tryLater();
          return;
        }
        if (!(error instanceof Refused)) throw error;
        await this.print(`${parcel.path}: ${error.message}`);
      }
      this.outbox.shift();
    }
  }

  private tryLater(): void {
    this.notBefore = Date.now() + (TRIES[Math.min(this.tries++, TRIES.length - 1)] ?? 0);
  }

  private async hasComeBack(): Promise<boolean> {
    try {
      await this.learnFiles();
      return true;
    } catch (error) {
      if (!(error instanceof Away)) throw error;
      this.tryLater();
      return false;
    }
  }

  private async sendOne(parcel: Parcel): Promise<void> {
    const { fileId, path, key, kind, sha256 } = parcel;
    const base = parcel.base ?? this.last.get(fileId);
    const name = path.split('/').at(-1) ?? path;
    const { made, aside, version, sentence } = await this.api.save(
      fileId,
      { key, base, kind },
      { path: this.outbox.contentOf(parcel), name },
    );
    this.last.set(fileId, version.id);
    if (!aside) {
      const state = readState(this.folder);
      state.bases[path] = { fileId, versionId: version.id, number: version.number, sha256 };
      writeState(this.folder, state);
    }
    if (made) await this.print(`${path}: ${sentence}`);
  }
}

function* pathsIn(folder: string, below = ''): Generator<string> {
  for (const entry of readdirSync(join(folder, below), { withFileTypes: true })) {
    const path = below ? `${below}/${entry.name}` : entry.name;
    if (isScratch(entry.name) || entry.isSymbolicLink()) continue;
    if (entry.isDirectory()) yield* pathsIn(folder, path);
    else if (entry.isFile()) yield path;
  }
}
