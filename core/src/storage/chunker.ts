/**
 * Content-defined chunking by a gear hash, with normalised chunk sizes (Xia et al., "FastCDC", USENIX ATC 2016).
 * Table, masks and limits are part of the stored format: change the version with them.
 */
/**
 * Version 1 cut at 16, 64 and 256 KiB; since edits are stored as deltas, larger chunks cost nothing and are found
 * twice as fast.
 */
export const CHUNKER_VERSION = 2;

const MINIMUM = 64 * 1024;
const AVERAGE = 128 * 1024;
/** No chunk is larger than this many bytes. */
export const LARGEST_CHUNK = 512 * 1024;
const MAXIMUM = LARGEST_CHUNK;
/** More bits below the average size and fewer above it pull sizes towards the average. */
const MASK_SMALL = 0xffff_e000 | 0; // 19 bits
const MASK_LARGE = 0xfffe_0000 | 0; // 15 bits

const gear = gearTable();

/** 256 pseudo-random words from xorshift32 with a fixed start. */
function gearTable(): Int32Array {
  const table = new Int32Array(256);
  let x = 0x9e3779b9;
  for (let i = 0; i < 256; i++) {
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    table[i] = x;
  }
  return table;
}

/**
 * Where the chunks of `bytes` end, each 64 to 512 KiB; borders depend on content alone. What lies behind the last end
 * is not decided yet: it goes in front of the bytes that follow. With `last` nothing follows, and the rest is a
 * chunk.
 */
export function chunkEnds(bytes: Uint8Array, last: boolean): number[] {
  const ends: number[] = [];
  for (let start = 0; start < bytes.length;) {
    const end = chunkEnd(bytes, start);
    if (end < 0) {
      if (last) ends.push(bytes.length);
      break;
    }
    ends.push(end);
    start = end;
  }
  return ends;
}

/** Where the chunk from `start` ends; -1 where more bytes could move its end. */
function chunkEnd(bytes: Uint8Array, start: number): number {
  const small = Math.min(start + AVERAGE, bytes.length);
  const large = Math.min(start + MAXIMUM, bytes.length);
  const table = gear;
  let hash = 0;
  let i = start + MINIMUM;
  for (; i < small; i++) {
    hash = ((hash << 1) + (table[bytes[i] as number] as number)) | 0;
    if ((hash & MASK_SMALL) === 0) return i + 1;
  }
  for (; i < large; i++) {
    hash = ((hash << 1) + (table[bytes[i] as number] as number)) | 0;
    if ((hash & MASK_LARGE) === 0) return i + 1;
  }
  return large === start + MAXIMUM ? large : -1;
}

/** The chunks of a whole content, as views of its bytes. */
export function chunksOf(bytes: Uint8Array): Uint8Array[] {
  let start = 0;
  return chunkEnds(bytes, true).map((end) => {
    const chunk = bytes.subarray(start, end);
    start = end;
    return chunk;
  });
}
