/** How a chunk is stored, and the hash by which it is known. */
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { constants, zstdCompress, zstdDecompressSync } from 'node:zlib';

const compress = promisify(zstdCompress);

export const CODEC_PLAIN = 0;
/** zstd as bytes arrive: fast. */
export const CODEC_ZSTD = 1;
/** zstd as the packer leaves it: small. */
export const CODEC_ZSTD_HIGH = 2;

export type Effort = 'fast' | 'fair' | 'high';
const levels: Readonly<Record<Effort, number>> = { fast: 1, fair: 6, high: 15 };

export const HASH_BYTES = 32;

/** BLAKE2b-512 (RFC 7693), cut to 32 bytes: twice as fast here as SHA-256. */
export const chunkHash = (bytes: Uint8Array): Buffer =>
  createHash('blake2b512').update(bytes).digest().subarray(0, HASH_BYTES);

/**
 * Compressed where that saves anything. Told the size, zstd fits its tables to it: a hundred times faster for small
 * pieces, and smaller.
 */
export async function encode(bytes: Uint8Array, level: Effort = 'fast'): Promise<{ codec: number; data: Buffer }> {
  const data = await compress(bytes, {
    params: { [constants.ZSTD_c_compressionLevel]: levels[level] },
    chunkSize: Math.max(bytes.length, 64),
    pledgedSrcSize: bytes.length,
  });
  if (data.length >= bytes.length)
    return { codec: CODEC_PLAIN, data: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length) };
  return { codec: level === 'fast' ? CODEC_ZSTD : CODEC_ZSTD_HIGH, data };
}

/**
 * Throws where the data are damaged, or hold more than `size` bytes. On this thread: handing a chunk to another takes
 * longer than unpacking it.
 */
export function decode(codec: number, data: Buffer, size: number): Buffer {
  return codec === CODEC_PLAIN
    ? data
    : zstdDecompressSync(data, { maxOutputLength: Math.max(size, 1), chunkSize: Math.max(size, 64) });
}
