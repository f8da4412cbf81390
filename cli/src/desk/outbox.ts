/** Saves on their way: copies of what was saved, kept on the desk until the server has them, sent in order. */
import { createHash } from 'node:crypto';
import {
  closeSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, join } from 'node:path';

const FOLDER = '.ovrel-saves';
const LIST = 'list.json';

export interface Parcel {
  /** Sent again with it, it is done once. */
  readonly key: string;
  readonly path: string;
  readonly fileId: string;
  readonly sha256: string;
  readonly kind: 'autosave' | 'backup';
  /** The version that it was made of; that of the parcel before it, where one of the same file waits. */
  readonly base: string | undefined;
}

/** A copy that was made: its name in the outbox, and what is in it. */
export type Taken = Pick<Parcel, 'key' | 'sha256'>;

export class Outbox {
  private readonly folder: string;
  private parcels: Parcel[];

  constructor(desk: string) {
    this.folder = join(desk, FOLDER);
    mkdirSync(this.folder, { recursive: true });
    const list = join(this.folder, LIST);
    this.parcels = existsSync(list) ? (JSON.parse(readFileSync(list, 'utf8')) as Parcel[]) : [];
  }

  get waiting(): readonly Parcel[] {
    return this.parcels;
  }

  contentOf({ key }: Parcel): string {
    return join(this.folder, key);
  }

  /**
   * Copies a file as it is now, unless it has the content that is `known`. 'busy' where it changes meanwhile or cannot be
   * read: a program has it. 'same' where nothing is new.
   */
  take(path: string, known: string | undefined): Taken | 'busy' | 'same' {
    const copy = join(this.folder, crypto.randomUUID());
    try {
      const before = statSync(path);
      const sha256 = hashOf(path);
      if (sha256 === known) return 'same';
      copyFileSync(path, copy);
      const after = statSync(path);
      const isStill = before.size === after.size && before.mtimeMs === after.mtimeMs && before.ino === after.ino;
      if (isStill && hashOf(copy) === sha256) return { key: basename(copy), sha256 };
    } catch {
      // A program has it open, or it is gone: it is looked at again.
    }
    rmSync(copy, { force: true });
    return 'busy';
  }

  add(parcel: Parcel): void {
    this.write([...this.parcels, parcel]);
  }

  /** The first has arrived, or was refused. */
  shift(): void {
    const [first, ...rest] = this.parcels;
    if (!first) return;
    this.write(rest);
    rmSync(this.contentOf(first), { force: true });
  }

  private write(parcels: readonly Parcel[]): void {
    const part = join(this.folder, `${LIST}.part`);
    writeFileSync(part, JSON.stringify(parcels));
    renameSync(part, join(this.folder, LIST));
    this.parcels = [...parcels];
  }
}

const PIECE = 4 * 1024 * 1024;

function hashOf(path: string): string {
  const hash = createHash('sha256');
  const piece = Buffer.alloc(PIECE);
  const file = openSync(path, 'r');
  try {
    for (let read = readSync(file, piece); read > 0; read = readSync(file, piece)) hash.update(piece.subarray(0, read));
  } finally {
    closeSync(file);
  }
  return hash.digest('hex');
}
