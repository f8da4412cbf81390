import { kindOf, modelOf, open, type Content } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** A point of a page, or the number of a part. */
export type At =
  { readonly page: string; readonly x: number; readonly y: number; readonly reach: number } | { readonly part: number };

export interface Located {
  readonly part: number;
  readonly page: string;
  readonly box: readonly [number, number, number, number] | null;
  readonly about: { readonly kind: string; readonly name: string; readonly category: string };
}

export function located({ design }: Content, part: number): Located | null {
  const found = design?.parts[part];
  if (!design || !found) return null;
  const { kind, name, category, page, box } = found;
  return { part, page: design.pages[page]?.name ?? '', box: box ?? null, about: { kind, name, category } };
}

/** The part at a point, or of a number; null where there is none. */
export const locate: Task<{ readonly source: Source; readonly at: At }, Located | null> = async ({ source, at }) => {
  const content = await open(source.bytes, source.name);
  if ('part' in at) return located(content, at.part);
  const [kind] = content.kinds;
  const model = await modelOf(content, kind);
  return located(content, kindOf(kind).partAt?.(model, at.page, [at.x, at.y], at.reach) ?? -1);
};
