/** What changed in the file and not to the eye: numbering, order, another way to write the same. */
import { isInSpace } from '../../../model/solid.ts';
import type { Saying } from '../../../causes/say.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';
import { calledOf, changesOf, thoseOf } from './words.ts';

export function rewriting(open: Open): Explanation[] {
  return [...regroupings(open), ...rewritten(open), ...numbering(open), ...order(open)];
}

/** Placements taken apart or lines joined, where nothing else was written otherwise: an act of its own. */
export function soleRegroupings(open: Open): Explanation[] {
  const { evidence: e } = open;
  const found = regroupings(open);
  const explained = new Set(found.flatMap(({ facets }) => facets.map(([k]) => k)));
  return [...e.unseen.keys()].every((k) => explained.has(k)) ? found : [];
}

/** Parts of A that became parts of B: of one block, or of one kind of line. */
interface Regrouping {
  readonly kind: 'exploded' | 'blocked' | 'split' | 'joined';
  readonly name: string;
  readonly a: number[];
  readonly b: number[];
}

function regroupings(open: Open): Explanation[] {
  const { evidence: e } = open;
  const changeOfA = new Map<number, number>();
  const changeOfB = new Map<number, number>();
  e.parts.forEach(([i, j], k) => {
    if (i >= 0) changeOfA.set(i, k);
    if (j >= 0) changeOfB.set(j, k);
  });
  const merged = new Map<string, Regrouping>();
  for (const { kind, name, partsA, partsB } of e.groups) {
    const key = `${kind} ${name}`;
    const group = merged.get(key) ?? { kind, name, a: [], b: [] };
    group.a.push(...partsA);
    group.b.push(...partsB);
    merged.set(key, group);
  }
  return [...merged.values()].flatMap((group): Explanation[] => {
    const { kind, a, b } = group;
    const changes = new Set([...a.flatMap((i) => changeOfA.get(i) ?? []), ...b.flatMap((j) => changeOfB.get(j) ?? [])]);
    // Of a pair only its outline is explained; another colour is another matter.
    const facets = open.facets(
      (_, w, k) =>
        changes.has(k) &&
        (w === undefined || w.aspect === 'geometry' || w.aspect === 'placement' || w.aspect === 'kind'),
    );
    // Another cause may have explained it already.
    if (facets.length === 0) return [];
    return [{ kind, saying: sayRegrouping(e, group), facets, parts: a.length + b.length }];
  });
}

function sayRegrouping(e: DrawingEvidence, { kind, name, a, b }: Regrouping): Saying {
  if (kind === 'exploded') return { code: 'block-exploded', values: { name, placements: a.length, parts: b.length } };
  if (kind === 'blocked') return { code: 'block-made', values: { name, placements: b.length, parts: a.length } };
  const what = bowed(e, a, b) ? 'arc' : 'line';
  return { code: 'lines-regrouped', values: { what, how: kind, from: a.length, into: b.length } };
}

const bowed = (e: DrawingEvidence, a: readonly number[], b: readonly number[]): boolean =>
  [...a.map((i) => e.a.parts[i]), ...b.map((j) => e.b.parts[j])].every(
    (p) => p?.kind === 'arc' || p?.kind === 'circle',
  );

/** The same outline, written as another kind of thing. */
function rewritten(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((c, w) => w?.aspect === 'kind' && !c.what.some((x) => x.aspect === 'geometry'));
  return grouped(facets, ([k, d]) => `${e.changes[k]?.what[d]?.from}\n${e.changes[k]?.what[d]?.to}`).map(
    ([key, group]): Explanation => {
      const [from = '', to = ''] = key.split('\n');
      // What an element of a building is called says what it is.
      if (calledOf(e).called)
        return {
          kind: 'property',
          saying: { code: 'classified', values: { who: thoseOf(e, group), from } },
          facets: [...group, ...categoriesOf(open, group)],
        };
      return {
        kind: 'rewritten',
        saying: { code: 'rewritten', values: { count: group.length, from, to } },
        facets: group,
      };
    },
  );
}

/** With its class an element goes to another discipline. */
function categoriesOf(open: Open, group: readonly Facet[]): Facet[] {
  const of = changesOf(group);
  return open.facets((_, w, k) => w?.aspect === 'layer' && of.has(k));
}

/** It matters least of all. */
const RENUMBERED = 0.5;

function numbering({ evidence: e }: Open): Explanation[] {
  if (!e.pairing.renumbered) return [];
  const saying: Saying = { code: 'renumbered', values: { only: false } };
  return [{ kind: 'renumbered', saying, facets: [], parts: e.b.parts.length, weight: RENUMBERED }];
}

/** Drawing order says what covers what where parts are filled; of lines it tells little. */
const ORDER = { covering: 1.2, otherwise: 0.6 } as const;

/** Parts that stand elsewhere in the drawing order: all but the longest run that kept it. */
function order({ evidence: e }: Open): Explanation[] {
  // Where things stand in space, nothing covers anything.
  if (isInSpace(e.b)) return [];
  // Page by page: a page that went elsewhere keeps its own order.
  const byPage = new Map<number, number[]>();
  for (const j of e.pairing.toB) {
    const page = e.b.parts[j]?.page;
    if (page === undefined) continue;
    const sequence = byPage.get(page);
    if (sequence) sequence.push(j);
    else byPage.set(page, [j]);
  }
  const parts = [...byPage.values()].reduce((sum, sequence) => sum + sequence.length - longestRun(sequence), 0);
  if (!parts) return [];
  const weight = e.b.traits.covering ? ORDER.covering : ORDER.otherwise;
  return [{ kind: 'order', saying: { code: 'order-changed', values: { parts } }, facets: [], parts, weight }];
}

/** Length of the longest increasing subsequence; O(n log n). */
function longestRun(values: readonly number[]): number {
  const tails: number[] = [];
  for (const v of values) {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((tails[mid] as number) < v) low = mid + 1;
      else high = mid;
    }
    tails[low] = v;
  }
  return tails.length;
}
