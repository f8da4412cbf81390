import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { deltaFromSignature, packDelta, signatureOf } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

const pack = promisify(gzip);

interface Input {
  readonly base: Source;
  readonly target: Source;
}

/** What is new of one content beside another, as it travels. */
export const difference: Task<Input, Uint8Array> = async ({ base, target }) =>
  pack(packDelta(deltaFromSignature(signatureOf(base.bytes), target.bytes)));
