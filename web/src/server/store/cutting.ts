import { chunkEnds } from '@ovrel/core';
import { chunkHash, HASH_BYTES } from './codec.ts';

/** Bytes as they were given, where their chunks end, and the hash of each chunk, one after the other. */
export interface Cut {
  readonly bytes: Uint8Array;
  readonly ends: readonly number[];
  readonly hashes: Uint8Array;
}

/** The chunks of a piece of a content (chunkEnds), with their hashes. */
export function cutBytes(bytes: Uint8Array, last: boolean): Cut {
  const ends = chunkEnds(bytes, last);
  const hashes = new Uint8Array(ends.length * HASH_BYTES);
  ends.forEach((end, i) => hashes.set(chunkHash(bytes.subarray(ends[i - 1] ?? 0, end)), i * HASH_BYTES));
  return { bytes, ends, hashes };
}
