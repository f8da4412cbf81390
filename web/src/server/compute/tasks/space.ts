import { gzipSync } from 'node:zlib';
import { open, packSpace, spaceOf, type Solid } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** A packed model (kinds/solid/packed.ts), gzipped; empty where the content is none. */
export const space: Task<{ readonly source: Source }, Uint8Array> = async ({ source }) => {
  const { kinds, design } = await open(source.bytes, source.name);
  if (kinds[0] !== 'solid' || !design) return new Uint8Array();
  return gzipSync(packSpace(spaceOf(design as Solid)), { level: 3 });
};
