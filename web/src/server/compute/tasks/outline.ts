import { followed, open, orUnreadable, ReadError } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

export interface OutlinedPart {
  readonly page: string;
  readonly kind: string;
  readonly name: string;
  readonly category: string;
  readonly box: readonly [number, number, number, number] | null;
}

/** The parts of a version, in a few words each. */
export const outline: Task<{ readonly source: Source }, OutlinedPart[]> = async ({ source }) => {
  const found = await orUnreadable(followed(await open(source.bytes, source.name)));
  if (found === undefined || found instanceof ReadError) return [];
  const { design } = found;
  return design.parts.map(({ page, kind, name, category, box }) => ({
    page: design.pages[page]?.name ?? '',
    kind,
    name,
    category,
    box: box ?? null,
  }));
};
