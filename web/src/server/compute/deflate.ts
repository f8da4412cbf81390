import type { DeflateSettings } from '@ovrel/core';
import { runTask } from './pool.ts';

/** Deflates a container's member as its program did, in a thread. */
export const deflateAgain = (bytes: Uint8Array, settings: DeflateSettings): Promise<Uint8Array> =>
  runTask({
    kind: 'deflate',
    bytes: bytes.byteOffset === 0 && bytes.byteLength === bytes.buffer.byteLength ? bytes : Uint8Array.from(bytes),
    settings,
  });
