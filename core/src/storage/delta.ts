/**
 * Deltas: a target told as runs of its base and new bytes. Unlike a general compressor with a dictionary, deltas of
 * deltas can be joined without unpacking the bytes between (pieces.ts), so that a long chain reads nearly as fast as
 * a short one. The form (see packDelta) is part of the stored format: change DELTA_VERSION with it.
 */
import { Pieces } from './pieces.ts';

const DELTA_VERSION = 1;

export interface Delta {
  readonly pieces: Pieces;
  readonly pool: Uint8Array;
}

/** Bytes that are hashed to find a run elsewhere in the base. */
const WINDOW = 16;
/** Shortest runs taken: at the expected place, a few bytes beside it, anywhere. */
const HERE = 8;
const NEAR = 10;
const ANYWHERE = 20;
const SHIFT = 10;
/** After this many new bytes the neighbourhood is given up. */
const PATIENCE = 64;
const TABLE_BITS = 22;
const { imul } = Math;

/** Builds one delta from consecutive segments of the target, each against a window of the base. */
export class DeltaBuilder {
  private readonly pieces = new Pieces();
  private pool = new Uint8Array(1 << 12);
  private poolSize = 0;
  /** Base offset less target offset of the last run: where the next one is expected. */
  private diagonal = 0;

  get literals(): number {
    return this.poolSize;
  }

  /** Where in the base the next target byte is expected. */
  get expected(): number {
    return Math.max(0, this.pieces.size + this.diagonal);
  }

  /** `base` is the part of the base that begins at `baseStart`. */
  append(base: Uint8Array, baseStart: number, target: Uint8Array): void {
    const index = new BaseIndex(base);
    const n = target.length;
    const m = base.length;
    const origin = this.pieces.size;
    // Within the segment: p = j + d.
    let d = this.diagonal + origin - baseStart;
    let literal = 0;
    let j = 0;
    while (j < n) {
      let p = -1;
      let length = 0;
      const here = j + d;
      if (here >= 0 && here < m && base[here] === target[j]) {
        length = run(base, here, target, j);
        if (length >= HERE || j + length === n) p = here;
      }
      if (p < 0 && j - literal < PATIENCE) {
        for (let s = 1; s <= SHIFT && p < 0; s++) {
          for (const q of [here + s, here - s]) {
            if (q < 0 || q >= m || base[q] !== target[j]) continue;
            const l = run(base, q, target, j);
            if (l >= NEAR) {
              p = q;
              length = l;
              break;
            }
          }
        }
      }
      if (length < ANYWHERE * 2 && j + WINDOW <= n) {
        const q = index.find(target, j);
        if (q >= 0) {
          const l = run(base, q, target, j);
          if (l >= ANYWHERE && l > 2 * (p < 0 ? 0 : length)) {
            p = q;
            length = l;
          }
        }
      }
      if (p < 0) {
        j++;
        continue;
      }
      let back = 0;
      while (j - back > literal && p - back > 0 && base[p - back - 1] === target[j - back - 1]) back++;
      this.addLiteral(target, literal, j - back);
      this.pieces.add(length + back, baseStart + p - back);
      d = p - j;
      j += length;
      literal = j;
    }
    this.addLiteral(target, literal, n);
    this.diagonal = d - origin + baseStart;
  }

  finish(): Delta {
    return { pieces: this.pieces, pool: this.pool.slice(0, this.poolSize) };
  }

  private addLiteral(bytes: Uint8Array, from: number, to: number): void {
    const length = to - from;
    if (length <= 0) return;
    if (this.poolSize + length > this.pool.length) {
      const larger = new Uint8Array(Math.max(this.pool.length * 2, this.poolSize + length));
      larger.set(this.pool.subarray(0, this.poolSize));
      this.pool = larger;
    }
    this.pool.set(bytes.subarray(from, to), this.poolSize);
    this.pieces.add(length, -1 - this.poolSize);
    this.poolSize += length;
  }
}

/** Finds runs of WINDOW bytes anywhere in the base; the latest of equal ones. */
class BaseIndex {
  private readonly base: Uint8Array;
  private readonly table: Int32Array;
  private readonly shift: number;

  constructor(base: Uint8Array) {
    this.base = base;
    const bits = Math.min(TABLE_BITS, Math.max(8, Math.ceil(Math.log2(base.length + 1)) + 1));
    this.table = new Int32Array(1 << bits);
    this.shift = 32 - bits;
    // Runs of ANYWHERE bytes hold a whole window at every step up to their difference; a large base is sampled.
    const step = base.length > 1 << 21 ? Math.max(2, Math.ceil(base.length / (1 << 21))) : 1;
    for (let p = 0; p + WINDOW <= base.length; p += step) this.table[this.hash(base, p)] = p + 1;
  }

  find(bytes: Uint8Array, at: number): number {
    return (this.table[this.hash(bytes, at)] as number) - 1;
  }

  private hash(b: Uint8Array, i: number): number {
    let h = 0;
    for (let k = 0; k < WINDOW; k += 4) {
      const word =
        (b[i + k] as number) |
        ((b[i + k + 1] as number) << 8) |
        ((b[i + k + 2] as number) << 16) |
        ((b[i + k + 3] as number) << 24);
      h = imul(h ^ word, 0x9e3779b1);
      h ^= h >>> 15;
    }
    return imul(h, 0x85ebca6b) >>> this.shift;
  }
}

function run(a: Uint8Array, i: number, b: Uint8Array, j: number): number {
  const most = Math.min(a.length - i, b.length - j);
  let n = 0;
  while (n < most && a[i + n] === b[j + n]) n++;
  return n;
}

/** The delta of a whole target against a whole base. */
export function deltaBetween(base: Uint8Array, target: Uint8Array): Delta {
  const builder = new DeltaBuilder();
  builder.append(base, 0, target);
  return builder.finish();
}

/** Number of bytes that a delta's target has, and the target itself from base and pool. */
export function applyDelta(base: Uint8Array, { pieces, pool }: Delta): Uint8Array {
  const out = new Uint8Array(pieces.size);
  let at = 0;
  for (let i = 0; i < pieces.count; i++) {
    const length = pieces.length[i] as number;
    const from = pieces.from[i] as number;
    if (from >= 0 ? from + length > base.length : -1 - from + length > pool.length)
      throw new RangeError('A delta reaches beyond its base.');
    out.set(from >= 0 ? base.subarray(from, from + length) : pool.subarray(-1 - from, -1 - from + length), at);
    at += length;
  }
  return out;
}

/**
 * Bytes of a delta, made to compress well: version; then four streams, each led by its size: lengths of new runs,
 * lengths of base runs, how far each base run is from where it was expected (zigzag), and the new bytes. Numbers are
 * LEB128.
 */
export function packDelta({ pieces, pool }: Delta): Uint8Array {
  const fresh = new Numbers();
  const kept = new Numbers();
  const jumps = new Numbers();
  let expected = 0;
  for (let i = 0; i < pieces.count;) {
    let skipped = 0;
    if ((pieces.from[i] as number) < 0) skipped = pieces.length[i++] as number;
    fresh.add(skipped);
    if (i === pieces.count) {
      kept.add(0);
      jumps.add(0);
      break;
    }
    const from = pieces.from[i] as number;
    const length = pieces.length[i++] as number;
    const jump = from - (expected + skipped);
    kept.add(length);
    jumps.add(jump < 0 ? -2 * jump - 1 : 2 * jump);
    expected = from + length;
  }
  const head = new Numbers();
  for (const n of [DELTA_VERSION, fresh.size, kept.size, jumps.size, pool.length]) head.add(n);
  const parts = [head.bytes(), fresh.bytes(), kept.bytes(), jumps.bytes(), pool];
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Throws RangeError where the bytes are no delta. */
export function unpackDelta(bytes: Uint8Array): Delta {
  const head = new Reader(bytes, 0, bytes.length);
  const version = head.next();
  if (version !== DELTA_VERSION) throw new RangeError(`A delta has version ${version}; ${DELTA_VERSION} was expected.`);
  const sizes = [head.next(), head.next(), head.next(), head.next()] as const;
  let at = head.at;
  const [fresh, kept, jumps] = [0, 1, 2].map((k) => {
    const part = new Reader(bytes, at, at + (sizes[k] as number));
    at += sizes[k] as number;
    return part;
  }) as [Reader, Reader, Reader];
  const pool = bytes.subarray(at, at + sizes[3]);
  if (pool.length !== sizes[3]) throw new RangeError('A delta is cut off.');
  const pieces = new Pieces();
  let used = 0;
  let expected = 0;
  while (fresh.at < fresh.end) {
    const skipped = fresh.next();
    const length = kept.next();
    const jump = jumps.next();
    pieces.add(skipped, -1 - used);
    used += skipped;
    const from = expected + skipped + (jump & 1 ? -(jump + 1) / 2 : jump / 2);
    pieces.add(length, from);
    expected = from + length;
  }
  if (used !== pool.length) throw new RangeError('A delta does not use its bytes.');
  return { pieces, pool };
}

class Numbers {
  private store = new Uint8Array(256);
  size = 0;

  add(n: number): void {
    if (this.size + 8 > this.store.length) {
      const larger = new Uint8Array(this.store.length * 2);
      larger.set(this.store);
      this.store = larger;
    }
    while (n >= 0x80) {
      this.store[this.size++] = (n % 0x80) | 0x80;
      n = Math.floor(n / 0x80);
    }
    this.store[this.size++] = n;
  }

  bytes(): Uint8Array {
    return this.store.subarray(0, this.size);
  }
}

class Reader {
  private readonly bytes: Uint8Array;
  at: number;
  readonly end: number;

  constructor(bytes: Uint8Array, at: number, end: number) {
    this.bytes = bytes;
    this.at = at;
    this.end = end;
  }

  next(): number {
    let n = 0;
    let scale = 1;
    for (;;) {
      if (this.at >= this.end) throw new RangeError('A delta is cut off.');
      const byte = this.bytes[this.at++] as number;
      n += (byte & 0x7f) * scale;
      if (byte < 0x80) return n;
      scale *= 0x80;
    }
  }
}
