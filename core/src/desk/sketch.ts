/** Sketches: small samples of contents, by which two that were never seen side by side can be told to be alike. */
import { unzipSync } from 'fflate';

/** Hashes that a sketch has at most. */
export const SKETCH = 128;
/** Pieces end with lines, or where the rolling hash says so, so that a change costs few of them and order none. */
const MASK = 0x1f << 20;
const SHORTEST = 16;
const LONGEST = 512;
/** Containers that hold more than this are taken as the bytes that they are. */
const LARGEST_INSIDE = 128 * 1024 * 1024;

/**
 * The smallest distinct hashes of a content's pieces, ascending (Broder, "On the resemblance and containment of
 * documents", 1997). Of a Zip container it is what its members hold, since their compressed bytes change wholly with
 * every edit.
 */
export function sketchOf(bytes: Uint8Array): Uint32Array {
  const kept = new Smallest(SKETCH);
  for (const part of insideOf(bytes)) addPieces(part, kept);
  return kept.ascending();
}

/** Hashes of pieces that are told of one content at most. */
const MOST_PIECES = 400_000;

/** All distinct hashes of a content's pieces, ascending: what two contents have in common, and not only a sample. */
export function piecesOf(bytes: Uint8Array): Uint32Array {
  const all = new Set<number>();
  const kept = {
    add: (hash: number): void => {
      if (all.size < MOST_PIECES) all.add(hash);
    },
  };
  for (const part of insideOf(bytes)) addPieces(part, kept, 1);
  return Uint32Array.from(all).sort();
}

function insideOf(bytes: Uint8Array): Uint8Array[] {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b || bytes[2] !== 3 || bytes[3] !== 4) return [bytes];
  try {
    let size = 0;
    const fits = (member: { readonly originalSize: number }): boolean => {
      size += member.originalSize;
      return size <= LARGEST_INSIDE;
    };
    const members = Object.values(unzipSync(bytes, { filter: fits }));
    return size > LARGEST_INSIDE || !members.length ? [bytes] : members;
  } catch {
    return [bytes];
  }
}

/** `shortest`: with 1, every line is a piece, whether or not another follows it. */
function addPieces(bytes: Uint8Array, kept: Pick<Smallest, 'add'>, shortest = SHORTEST): void {
  let start = 0;
  let roll = 0;
  let hash = 0x811c9dc5;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i] as number;
    // FNV-1a over the piece; the rolling hash forgets what is 32 bytes back.
    const isLineEnd = byte === 10;
    if (!isLineEnd || shortest > 1) hash = Math.imul(hash ^ byte, 0x01000193);
    roll = ((roll << 1) + Math.imul(byte + 1, 0x9e3779b1)) | 0;
    const length = i + 1 - start;
    const isEnd = (length >= SHORTEST && (roll & MASK) === 0) || (length >= shortest && isLineEnd);
    if (isEnd || length >= LONGEST || i === bytes.length - 1) {
      kept.add(mixed(hash));
      start = i + 1;
      hash = 0x811c9dc5;
    }
  }
}

/** Spreads a hash over all its bits (the finish of MurmurHash3). */
function mixed(h: number): number {
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** The k smallest distinct numbers of many. */
class Smallest {
  private readonly most: number;
  private members = new Set<number>();
  private limit = 0xffffffff;

  constructor(most: number) {
    this.most = most;
  }

  add(n: number): void {
    if (n > this.limit || this.members.has(n)) return;
    this.members.add(n);
    // Cut back now and then instead of keeping order all the time.
    if (this.members.size >= 8 * this.most) this.cut();
  }

  private cut(): void {
    const smallest = [...this.members].sort((a, b) => a - b).slice(0, this.most);
    this.members = new Set(smallest);
    if (smallest.length === this.most) this.limit = smallest.at(-1) ?? this.limit;
  }

  ascending(): Uint32Array {
    this.cut();
    return Uint32Array.from(this.members);
  }
}

/** The share of pieces that two contents have in common, estimated: 0 to 1, with an error of about 0.05. */
export function likeness(a: Uint32Array, b: Uint32Array): number {
  let i = 0;
  let j = 0;
  let both = 0;
  let seen = 0;
  while (seen < SKETCH && (i < a.length || j < b.length)) {
    const x = a[i] ?? Infinity;
    const y = b[j] ?? Infinity;
    if (x === y) both++;
    if (x <= y) i++;
    if (y <= x) j++;
    seen++;
  }
  return seen ? both / seen : 0;
}

/** Less than this is chance, or what all files of a program have in common. */
export const ALIKE = 0.3;
