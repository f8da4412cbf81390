import { zstdCompressSync } from 'node:zlib';
import type { ChangeOutlines, Comparison } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { compared } from './shared.ts';

interface Input {
  readonly a: Source;
  readonly b: Source;
  readonly tolerance?: number;
}

/** As it is kept: of pictures with the differences of their squares, in base64. */
export interface KeptComparison {
  readonly comparison: Comparison;
  readonly picture: ChangeOutlines;
  readonly map?: string;
}

/** Compressed JSON of a KeptComparison, and its summary. */
export interface PackedComparison {
  readonly value: Uint8Array;
  readonly summary: string;
}

export const compare: Task<Input, PackedComparison> = async ({ a, b, tolerance }) => {
  const { comparison, outlines, map } = await compared(a, b, tolerance);
  const kept: KeptComparison = {
    comparison,
    picture: outlines,
    ...(map ? { map: Buffer.from(map).toString('base64') } : {}),
  };
  return { value: zstdCompressSync(JSON.stringify(kept)), summary: comparison.summary };
};
