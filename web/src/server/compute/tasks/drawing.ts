import { open, svgOf, type Box } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

interface Input {
  readonly source: Source;
  readonly page: number;
  readonly box?: Box;
}

/** A page, or an area of it, drawn from its parts as SVG in UTF-8; empty where the content has no such page. */
export const drawing: Task<Input, Uint8Array> = async ({ source, page, box }) => {
  const { kinds, design } = await open(source.bytes, source.name);
  if (kinds[0] !== 'drawing' || !design?.pages[page]) return new Uint8Array();
  return new TextEncoder().encode(svgOf(design, page, box ? { box } : {}));
};
