/** Runs of bytes in order: each comes from a base, or from a pool of literal bytes. The working form of a delta. */
export class Pieces {
  count = 0;
  /** Bytes of the target described so far. */
  size = 0;
  /** Length of each piece. */
  length: Int32Array;
  /** Offset in the base where ≥ 0; otherwise −1 − offset in the pool. */
  from: Int32Array;

  /** Room for so many pieces at first. */
  constructor(room = 64) {
    this.length = new Int32Array(room);
    this.from = new Int32Array(room);
  }

  static of(length: Int32Array, from: Int32Array, count: number, size: number): Pieces {
    const out = new Pieces(0);
    out.length = length;
    out.from = from;
    out.count = count;
    out.size = size;
    return out;
  }

  add(length: number, from: number): void {
    if (length <= 0) return;
    const last = this.count - 1;
    if (last >= 0) {
      const end = this.from[last] as number;
      const before = this.length[last] as number;
      // A pool offset falls as it advances, because it is stored negated.
      if (end >= 0 ? from === end + before : from === end - before) {
        this.length[last] = before + length;
        this.size += length;
        return;
      }
    }
    if (this.count === this.length.length) this.grow();
    this.length[this.count] = length;
    this.from[this.count++] = from;
    this.size += length;
  }

  private grow(): void {
    const length = new Int32Array(this.count * 2 + 64);
    const from = new Int32Array(this.count * 2 + 64);
    length.set(this.length);
    from.set(this.from);
    this.length = length;
    this.from = from;
  }

  /** Offset of each piece in the target. */
  starts(): Int32Array {
    const out = new Int32Array(this.count);
    for (let i = 0, at = 0; i < this.count; i++) {
      out[i] = at;
      at += this.length[i] as number;
    }
    return out;
  }
}

/** Index of the piece that holds `offset`. */
export function pieceAt(starts: Int32Array, offset: number): number {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((starts[middle] as number) <= offset) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The pieces of `start` up to `end`. With `starts` at hand the search for the first one is short. */
export function cut(pieces: Pieces, start: number, end: number, starts?: Int32Array): Pieces {
  const out = new Pieces();
  let i = starts && pieces.count ? pieceAt(starts, start) : 0;
  let at = starts?.[i] ?? 0;
  for (; i < pieces.count && at < end; i++) {
    const length = pieces.length[i] as number;
    const from = pieces.from[i] as number;
    const a = Math.max(start - at, 0);
    const b = Math.min(end - at, length);
    if (b > a) out.add(b - a, from >= 0 ? from + a : from - a);
    at += length;
  }
  return out;
}

/**
 * Replaces what `newer` takes from its base by where the base itself has it. The pool of `older` is thought of as
 * following that of `newer`, which has `poolSize` bytes. Cost: proportional to the number of pieces.
 */
export function compose(newer: Pieces, older: Pieces, poolSize: number): Pieces {
  const starts = older.starts();
  const last = older.count - 1;
  const { length: lengths, from: froms } = newer;
  const { length: oldLengths, from: oldFroms } = older;
  let room = newer.count + older.count + 64;
  let outLengths = new Int32Array(room);
  let outFroms = new Int32Array(room);
  let n = 0;
  const put = (length: number, from: number): void => {
    if (n > 0) {
      const end = outFroms[n - 1] as number;
      const before = outLengths[n - 1] as number;
      if (end >= 0 ? from === end + before : from === end - before) {
        outLengths[n - 1] = before + length;
        return;
      }
    }
    if (n === room) {
      room *= 2;
      const a = new Int32Array(room);
      const b = new Int32Array(room);
      a.set(outLengths);
      b.set(outFroms);
      outLengths = a;
      outFroms = b;
    }
    outLengths[n] = length;
    outFroms[n++] = from;
  };
  let k = 0;
  for (let i = 0; i < newer.count; i++) {
    let from = froms[i] as number;
    let left = lengths[i] as number;
    if (from < 0) {
      put(left, from);
      continue;
    }
    if (from + left > older.size)
      throw new RangeError(`A delta refers to byte ${from + left} of a base of ${older.size} bytes.`);
    // Mostly a little further on; else it is searched for.
    if (from < (starts[k] as number) || from >= (starts[k + 16 < last ? k + 16 : last] as number))
      k = pieceAt(starts, from);
    while (left > 0) {
      while (k < last && (starts[k + 1] as number) <= from) k++;
      const inside = from - (starts[k] as number);
      const here = (oldLengths[k] as number) - inside;
      const take = left < here ? left : here;
      const source = oldFroms[k] as number;
      put(take, source >= 0 ? source + inside : source - inside - poolSize);
      from += take;
      left -= take;
    }
  }
  return Pieces.of(outLengths, outFroms, n, newer.size);
}
