import { signatureOf } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

interface Input {
  readonly source: Source;
}

/** Sums and hashes of a content's blocks. */
export const signature: Task<Input, Uint8Array> = async ({ source: { bytes } }) => signatureOf(bytes);
