/** A folder whose files are saved by programs: what is settled, known to Ovrel and new is a save. */
import { Settling, type Glimpse } from '@ovrel/core/settling';
import { hashOf } from './hashing.ts';

/** A file of the project as the folder has it. */
export interface KnownFile {
  readonly fileId: string;
  /** The version that it was taken from, or saved as last; undefined where that is not known. */
  readonly base: string | undefined;
  /** Contents that are no news: of that version, and of the newest. */
  readonly hashes: readonly string[];
}

export interface WatchedPlace {
  readonly glimpses: () => Promise<ReadonlyMap<string, Glimpse>>;
  /** Undefined where there is no such file, or none that can be read now. */
  readonly read: (path: string) => Promise<File | undefined>;
  /** Undefined where Ovrel does not know it. */
  readonly fileAt: (path: string) => KnownFile | undefined;
}

export interface SettledSave {
  readonly path: string;
  readonly file: KnownFile;
  readonly content: File;
}

export class FolderWatch {
  private readonly place: WatchedPlace;
  private readonly settling: Settling;
  private isBegun = false;
  /** By path: the content that was given last. */
  private readonly given = new Map<string, string>();

  /** `quiet`: how long a file must stay as it is, in milliseconds. */
  constructor(place: WatchedPlace, quiet: number) {
    this.place = place;
    this.settling = new Settling(quiet);
  }

  /** What was saved since the last look. What is there at the first is no save. */
  async look(now: number): Promise<SettledSave[]> {
    const seen = await this.place.glimpses();
    if (!this.isBegun) {
      this.settling.begin(now, seen);
      this.isBegun = true;
      return [];
    }
    const saves: SettledSave[] = [];
    for (const path of this.settling.settled(now, seen)) {
      const save = await this.saveAt(path, seen.get(path));
      if (save) saves.push(save);
    }
    return saves;
  }

  private async saveAt(path: string, glimpse: Glimpse | undefined): Promise<SettledSave | undefined> {
    const file = this.place.fileAt(path);
    if (!file) return undefined;
    const content = await this.place.read(path);
    // It is being written once more: it is waited for again.
    if (content?.size !== glimpse?.size || content?.lastModified !== glimpse?.at) {
      this.settling.again(path);
      return undefined;
    }
    if (!content) return undefined;
    const sha256 = await hashOf(content);
    if (!this.isNews(path, file, sha256)) return undefined;
    this.given.set(path, sha256);
    return { path, file, content };
  }

  /** While the save before is on its way, what Ovrel knows is older than that: going back to it is a save, too. */
  private isNews(path: string, { hashes }: KnownFile, sha256: string): boolean {
    const last = this.given.get(path);
    const isOnItsWay = last !== undefined && !hashes.includes(last);
    return isOnItsWay ? sha256 !== last : !hashes.includes(sha256);
  }
}
