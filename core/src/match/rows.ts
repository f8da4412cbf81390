/**
 * Rows of equal parts that were set anew at another distance: some stand where another stood before, but the first
 * is the first, and the last the last.
 */
import { centreX, centreY, height, width } from '../geometry/box.ts';
import type { Design, Part } from '../model/design.ts';
import type { Pairing } from './pairing.ts';
import { wordsOf } from './traits.ts';

/** Fewer stand evenly by chance. */
const LEAST = 4;
/** More than one that is left out is no even row. */
const MOST_STEPS = 2;

export interface Even {
  readonly pitch: number;
  /** How many times the pitch each stands from the first. */
  readonly steps: readonly number[];
}

/** `places` in rising order; undefined where they do not stand evenly within `reach`. */
export function evenly(places: readonly number[], reach: number): Even | undefined {
  const gaps = places.slice(1).map((place, k) => place - (places[k] as number));
  const least = Math.min(...gaps);
  if (gaps.length === 0 || least <= reach || gaps.some((gap) => Math.round(gap / least) > MOST_STEPS)) return undefined;
  const [first = 0] = places;
  const steps = [0];
  for (const gap of gaps) steps.push((steps.at(-1) ?? 0) + Math.round(gap / least));
  const pitch = ((places.at(-1) ?? 0) - first) / (steps.at(-1) ?? 1);
  const isEven = places.every((place, k) => Math.abs(place - first - (steps[k] as number) * pitch) <= reach);
  return isEven ? { pitch, steps } : undefined;
}

export type Axis = 0 | 1;
export const along = ({ box }: Part, axis: Axis): number => {
  if (!box) return NaN;
  return axis === 0 ? centreX(box) : centreY(box);
};

/** Equal for parts that are the same thing again and again; undefined for words and what has no place. */
export function likenessOf(part: Part | undefined, tolerance: number): string | undefined {
  if (!part?.box || wordsOf(part) !== '') return undefined;
  const grain = 16 * tolerance;
  const size = `${Math.round(width(part.box) / grain)} ${Math.round(height(part.box) / grain)}`;
  return `${part.kind} ${part.category} ${part.page} ${part.definition === undefined ? '' : part.name} ${size}`;
}

/** The same pairing, with such rows paired from end to end. */
export function inRows(a: Design, b: Design, pairing: Pairing, tolerance: number): Pairing {
  const likely = movedLikenesses(a, b, pairing, tolerance);
  if (likely.size === 0) return pairing;
  const toB = pairing.toB.slice();
  const toA = pairing.toA.slice();
  for (const axis of [0, 1] as const) {
    const rowsA = rows(a, likely, axis, tolerance);
    const rowsB = rows(b, likely, axis, tolerance);
    for (const [key, before] of rowsA) {
      const after = rowsB.get(key) ?? [];
      if (!isSetAnew(a, before, b, after, axis, tolerance) || !pairWithin(before, after, toB)) continue;
      before.forEach((i, k) => {
        const j = after[k] as number;
        toB[i] = j;
        toA[j] = i;
      });
    }
  }
  return { ...pairing, toA, toB };
}

/** Likenesses of parts several of which stand elsewhere now. */
function movedLikenesses(a: Design, b: Design, { toB }: Pairing, tolerance: number): Set<string> {
  const moved = new Map<string, number>();
  for (const [i, j] of toB.entries()) {
    const [before, after] = [a.parts[i], b.parts[j]];
    if (!before?.box || !after?.box) continue;
    const reach = 4 * tolerance;
    const stays =
      Math.abs(along(before, 0) - along(after, 0)) <= reach && Math.abs(along(before, 1) - along(after, 1)) <= reach;
    const likeness = stays ? undefined : likenessOf(after, tolerance);
    if (likeness !== undefined) moved.set(likeness, (moved.get(likeness) ?? 0) + 1);
  }
  return new Set([...moved].filter(([, count]) => count >= LEAST - 1).map(([likeness]) => likeness));
}

/** Indices of equal parts on one line, from end to end. */
function rows(design: Design, likely: ReadonlySet<string>, axis: Axis, tolerance: number): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (const [k, part] of design.parts.entries()) {
    const likeness = likenessOf(part, tolerance);
    if (likeness === undefined || !likely.has(likeness)) continue;
    const line = Math.round(along(part, axis === 0 ? 1 : 0) / (16 * tolerance));
    const key = `${likeness} ${line}`;
    const row = found.get(key);
    if (row) row.push(k);
    else found.set(key, [k]);
  }
  const place = (k: number): number => along(design.parts[k] as Part, axis);
  for (const row of found.values()) row.sort((p, q) => place(p) - place(q));
  return found;
}

function isSetAnew(
  a: Design,
  before: readonly number[],
  b: Design,
  after: readonly number[],
  axis: Axis,
  tolerance: number,
): boolean {
  if (before.length < LEAST || before.length !== after.length) return false;
  const reach = 8 * tolerance;
  const places = (design: Design, row: readonly number[]): number[] =>
    row.map((k) => along(design.parts[k] as Part, axis));
  const from = evenly(places(a, before), reach);
  const to = evenly(places(b, after), reach);
  return from !== undefined && to !== undefined && Math.abs(from.pitch - to.pitch) > reach;
}

/** Whether all of one row are paired with all of the other. */
function pairWithin(before: readonly number[], after: readonly number[], toB: ArrayLike<number>): boolean {
  const own = new Set(after);
  return before.every((i) => own.has(toB[i] as number));
}
