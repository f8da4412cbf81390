/** The one comparison engine: from two designs to a list of what changed. */
import type { Change, Counts, PartSummary } from '../contract/comparison.ts';
import { toleranceFor } from '../match/fingerprints.ts';
import type { Pairing } from '../match/pairing.ts';
import { matchParts } from '../match/parts.ts';
import { matchSequence } from '../match/sequence.ts';
import type { Design, Part } from '../model/design.ts';
import { sameCategories } from './categories.ts';
import { differences, type Context } from './differences.ts';

/** Changes between two designs, in the order of B (removed parts where they stood in A). */
export function compareDesigns(a: Design, b: Design): { changes: Change[]; parts: [number, number][]; counts: Counts; pairing: Pairing } {
  const tolerance = toleranceFor(a, b);
  const pairing = a.sequential && b.sequential ? matchSequence(a, b) : matchParts(a, b, tolerance);
  const context: Context = { a, b, tolerance, sameCategory: sameCategories(a, b, pairing) };
  const counts: Counts = { added: 0, removed: 0, changed: 0, moved: 0, unchanged: 0 };
  const changes: Change[] = [], parts: [number, number][] = [];
  const push = (change: Omit<Change, 'id'>, i: number, j: number): void => {
    changes.push({ id: `c${changes.length + 1}`, ...change });
    parts.push([i, j]);
    counts[change.kind]++;
  };
  let nextA = 0;
  const removedUpTo = (end: number): void => {
    for (; nextA < end; nextA++) {
      const part = a.parts[nextA];
      if (!part || pairing.toB[nextA] !== -1) continue;
      const summary = summaryOf(a, part);
      push({ kind: 'removed', part: summary, partA: summary, what: [], boxA: boxOf(part), boxB: null }, nextA, -1);
    }
  };
  b.parts.forEach((part, j) => {
    const i = pairing.toA[j] as number;
    const before = a.parts[i];
    if (!before) {
      const summary = summaryOf(b, part);
      push({ kind: 'added', part: summary, partB: summary, what: [], boxA: null, boxB: boxOf(part) }, -1, j);
      return;
    }
    removedUpTo(Math.max(nextA, i));
    const what = differences(context, before, part);
    if (!what.length) {
      counts.unchanged++;
      return;
    }
    const kind = what.every((w) => w.aspect === 'placement') ? 'moved' : 'changed';
    push({ kind, part: summaryOf(b, part), partA: summaryOf(a, before), partB: summaryOf(b, part), what, boxA: boxOf(before), boxB: boxOf(part) }, i, j);
  });
  removedUpTo(a.parts.length);
  return { changes, parts, counts, pairing };
}

const round = (n: number): number => Math.round(n * 1e4) / 1e4;

const boxOf = (part: Part): Change['boxA'] => (part.box ? [round(part.box[0]), round(part.box[1]), round(part.box[2]), round(part.box[3])] : null);

const summaryOf = (design: Design, part: Part): PartSummary => ({
  key: part.key ?? null, kind: part.kind, name: part.name, category: part.category, page: design.pages[part.page]?.name ?? '',
});
