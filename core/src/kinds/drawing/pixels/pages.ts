/** Pages of two designs as they are drawn. */
import type { Design, Page } from '../../../model/design.ts';
import type { Picture } from '../../../model/picture.ts';

/** Draws page `index` of a side, its longer side `side` pixels. Throws ReadError where it cannot be drawn. */
export type Draw = (index: number, side: number) => Promise<Picture>;

export interface Drawn {
  readonly a: Draw;
  readonly b: Draw;
}

/** A page on both sides, and where it stands in the file of each. */
export interface PagePair {
  readonly a: Page;
  readonly b: Page;
  readonly inA: number;
  readonly inB: number;
}

/**
 * Pages of one name, and the only pages of both, whatever they are called. Pages that were turned are drawn in
 * another shape.
 */
export function pagePairs(a: Design, b: Design): PagePair[] {
  const isOnly = a.pages.length === 1 && b.pages.length === 1;
  return b.pages.flatMap((page, inB): PagePair[] => {
    const before = a.pages[inB];
    if (!before || before.turned !== undefined || (!isOnly && before.name !== page.name)) return [];
    const inA = before.place ?? (a.pages.length === b.pages.length ? inB : -1);
    return inA < 0 ? [] : [{ a: before, b: page, inA, inB }];
  });
}
