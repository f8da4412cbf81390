/** Parts and shifts of drawings as the values of causes. */
import type { Shift, Those } from '../../../causes/phrases.ts';
import type { ChangeDraft } from '../../../causes/draft.ts';
import { cardOf } from '../../../formats/registry.ts';
import type { DrawingEvidence, Facet } from './open.ts';

/** A shift with y as people read it; what is smaller than the tolerance is nothing. */
export function shiftOf(e: DrawingEvidence, dx: number, dy: number, dz?: number): Shift {
  const zeroed = (n: number): number => (Math.abs(n) <= e.tolerance ? 0 : n);
  const up = dz === undefined ? {} : { dz: zeroed(dz) };
  return { dx: zeroed(dx), dy: zeroed(e.b.yUp ? -dy : dy), ...up, unit: e.unit };
}

/** A point with y as people read it. */
export const pointOf = (e: DrawingEvidence, [x, y]: readonly [number, number]): readonly [number, number] => [
  x,
  e.b.yUp ? -y : y,
];

/** What categories are called, where they are no layers. */
export function calledOf({ b }: DrawingEvidence): { readonly called?: string } {
  const category = cardOf(b.format)?.called?.category;
  return category === undefined ? {} : { called: category };
}

export const changesOf = (facets: readonly Facet[]): Set<number> => new Set(facets.map(([k]) => k));

/** How many parts some facets are of, of which kind, and the name of a single one. */
export function thoseOf(e: DrawingEvidence, facets: readonly Facet[]): Those {
  const changes = [...changesOf(facets)];
  const parts = changes.map((k) => (e.changes[k] as ChangeDraft).part);
  const [first] = parts;
  const kind = first && parts.every((part) => part.kind === first.kind) ? first.kind : 'part';
  return { count: changes.length, kind, ...(changes.length === 1 && first ? { name: first.name } : {}) };
}
