/** Runs of bytes in order: each comes from a base, or from a pool of literal bytes. The working form of a delta. */
export class Pieces {
  count = 0;
  /** Bytes of the target described so far. */
  size = 0;
  /** Length of each piece. */
  length = new Int32Array(64);
  /** Offset in the base where ≥ 0; otherwise −1 − offset in the pool. */
  from = new Int32Array(64);

  add(length: number, from: number): void {
    if (length <= 0) return;
    const last = this.count - 1;
    if (last >= 0) {
      const end = this.from[last] as number, before = this.length[last] as number;
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
    const length = new Int32Array(this.count * 2), from = new Int32Array(this.count * 2);
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
  let low = 0, high = starts.length - 1;
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
    const length = pieces.length[i] as number, from = pieces.from[i] as number;
    const a = Math.max(start - at, 0), b = Math.min(end - at, length);
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
  const out = new Pieces(), starts = older.starts();
  let k = 0;
  for (let i = 0; i < newer.count; i++) {
    let from = newer.from[i] as number, left = newer.length[i] as number;
    if (from < 0) {
      out.add(left, from);
      continue;
    }
    if (from < (starts[k] as number) || from >= (starts[Math.min(k + 16, older.count - 1)] as number)) k = pieceAt(starts, from);
    while (left > 0) {
      while (k + 1 < older.count && (starts[k + 1] as number) <= from) k++;
      const inside = from - (starts[k] as number), take = Math.min(left, (older.length[k] as number) - inside);
      if (take <= 0) throw new RangeError(`A delta refers to byte ${from} of a base of ${older.size} bytes.`);
      const source = older.from[k] as number;
      out.add(take, source >= 0 ? source + inside : source - inside - poolSize);
      from += take;
      left -= take;
    }
  }
  return out;
}
