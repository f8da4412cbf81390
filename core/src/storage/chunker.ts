/**
 * Content-defined chunking by a gear hash, with normalised chunk sizes
 * (Xia et al., "FastCDC", USENIX ATC 2016). Table, masks and limits are part of the stored format: change the version with them.
 */
/** Version 1 cut at 16, 64 and 256 KiB; since edits are stored as deltas, larger chunks cost nothing and are found twice as fast. */
export const CHUNKER_VERSION = 2;

const MINIMUM = 64 * 1024;
const AVERAGE = 128 * 1024;
const MAXIMUM = 512 * 1024;
/** More bits below the average size and fewer above it pull sizes towards the average. */
const MASK_SMALL = 0xffff_e000 >>> 0; // 19 bits
const MASK_LARGE = 0xfffe_0000 >>> 0; // 15 bits

const gear = gearTable();

/** 256 pseudo-random words from xorshift32 with a fixed start. */
function gearTable(): Uint32Array {
  const table = new Uint32Array(256);
  let x = 0x9e3779b9;
  for (let i = 0; i < 256; i++) {
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    table[i] = x >>> 0;
  }
  return table;
}

/** Cuts a stream of bytes into chunks of 64 to 512 KiB whose borders depend on content alone. */
export class Chunker {
  private buffer = new Uint8Array(MAXIMUM);
  private filled = 0;
  /** Bytes of the buffer that have been looked at, and the hash at that point. */
  private scanned = 0;
  private hash = 0;

  /** Takes bytes and gives each chunk that they complete. A chunk is a copy that the caller may keep. */
  *push(bytes: Uint8Array): Generator<Uint8Array> {
    let at = 0;
    while (at < bytes.length) {
      const take = Math.min(bytes.length - at, MAXIMUM - this.filled);
      this.buffer.set(bytes.subarray(at, at + take), this.filled);
      this.filled += take;
      at += take;
      for (let cut = this.findCut(); cut > 0; cut = this.findCut()) yield this.take(cut);
    }
  }

  /** The last chunk; undefined after a whole number of chunks. */
  finish(): Uint8Array | undefined {
    return this.filled ? this.take(this.filled) : undefined;
  }

  private findCut(): number {
    let { hash, scanned: i } = this;
    const { buffer, filled } = this;
    if (i < MINIMUM) i = Math.min(MINIMUM, filled);
    const small = Math.min(AVERAGE, filled);
    for (; i < small; i++) {
      hash = ((hash << 1) + (gear[buffer[i] as number] as number)) | 0;
      if ((hash & MASK_SMALL) === 0) return i + 1;
    }
    for (; i < filled; i++) {
      hash = ((hash << 1) + (gear[buffer[i] as number] as number)) | 0;
      if ((hash & MASK_LARGE) === 0) return i + 1;
    }
    this.scanned = i;
    this.hash = hash;
    return filled === MAXIMUM ? MAXIMUM : 0;
  }

  private take(length: number): Uint8Array {
    const chunk = this.buffer.slice(0, length);
    this.buffer.copyWithin(0, length, this.filled);
    this.filled -= length;
    this.scanned = 0;
    this.hash = 0;
    return chunk;
  }
}
