import type { DeflateSettings } from '@ovrel/core';
import { runTask } from './pool.ts';

/** Deflates a container's member as its program did, in a thread. */
export const deflateAgain = (bytes: Uint8Array, settings: DeflateSettings): Promise<Uint8Array> =>
  runTask('deflate', { bytes: ownMemory(bytes), settings });

/** Bytes that are given away take no others with them. */
const ownMemory = (bytes: Uint8Array): Uint8Array =>
  bytes.byteLength === bytes.buffer.byteLength ? bytes : Uint8Array.from(bytes);
