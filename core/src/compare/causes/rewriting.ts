/** What changed in the file and not to the eye: numbering, order, another way to write the same. */
import { plural } from '../../text/plural.ts';
import type { Evidence, Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { pluralOf, quoted } from './words.ts';

export function rewriting(open: Open): Found[] {
  return [...regroupings(open), ...rewritten(open), ...numbering(open), ...order(open)];
}

function regroupings(open: Open): Found[] {
  const { evidence: e } = open;
  const ofA = new Map<number, number>();
  const ofB = new Map<number, number>();
  if (!e.groups.length) return [];
  e.parts.forEach(([i, j], k) => {
    if (i >= 0) ofA.set(i, k);
    if (j >= 0) ofB.set(j, k);
  });
  const merged = new Map<
    string,
    { kind: 'exploded' | 'blocked' | 'split' | 'joined'; name: string; a: number[]; b: number[] }
  >();
  for (const g of e.groups) {
    const key = `${g.kind} ${g.name}`;
    const group = merged.get(key) ?? { kind: g.kind, name: g.name, a: [], b: [] };
    group.a.push(...g.partsA);
    group.b.push(...g.partsB);
    merged.set(key, group);
  }
  return [...merged.values()].map(({ kind, name, a, b }): Found => {
    const changes = new Set([...a.flatMap((i) => ofA.get(i) ?? []), ...b.flatMap((j) => ofB.get(j) ?? [])]);
    // Of a pair only its outline is explained; another colour is another matter.
    const facets = open.facets(
      (_, w, k) =>
        changes.has(k) &&
        (w === undefined || w.aspect === 'geometry' || w.aspect === 'placement' || w.aspect === 'kind'),
    );
    const sentence =
      kind === 'exploded'
        ? `Block ${quoted(name)} taken apart: ${plural(a.length, 'placement')} into ${plural(b.length, 'part')}`
        : kind === 'blocked'
          ? `${plural(a.length, 'part')} made into ${plural(b.length, 'placement')} of block ${quoted(name)}`
          : `${plural(a.length, bowed(e, a, b) ? 'arc' : 'line')} ${kind} into ${b.length.toLocaleString('en')}, nothing else`;
    return { kind, sentence, facets, parts: a.length + b.length };
  });
}

const bowed = (e: Evidence, a: readonly number[], b: readonly number[]): boolean =>
  [...a.map((i) => e.a.parts[i]), ...b.map((j) => e.b.parts[j])].every(
    (p) => p?.kind === 'arc' || p?.kind === 'circle',
  );

/** The same outline, written as another kind of thing. */
function rewritten(open: Open): Found[] {
  const { evidence: e } = open;
  const facets = open.facets((c, w) => w?.aspect === 'kind' && !c.what.some((x) => x.aspect === 'geometry'));
  return grouped(facets, ([k, d]) => `${e.changes[k]?.what[d]?.from} → ${e.changes[k]?.what[d]?.to}`).map(
    ([key, group]): Found => {
      const [from = '', to = ''] = key.split(' → ');
      return {
        kind: 'rewritten',
        sentence: `${plural(group.length, from, pluralOf(from))} now written as ${group.length === 1 ? to : pluralOf(to)}, drawn the same`,
        facets: group,
      };
    },
  );
}

function numbering({ evidence: e }: Open): Found[] {
  if (!e.pairing.renumbered || e.b.sequential) return [];
  return [{ kind: 'renumbered', sentence: 'Everything renumbered', facets: [], parts: e.b.parts.length, weight: 0.5 }];
}

/** Parts that stand elsewhere in the drawing order: all but the longest run that kept it. */
function order({ evidence: e }: Open): Found[] {
  if (e.b.sequential) return [];
  // Page by page: a page that went elsewhere keeps its own order.
  const byPage = new Map<number, number[]>();
  e.pairing.toB.forEach((j) => {
    const page = e.b.parts[j]?.page;
    if (page === undefined) return;
    const sequence = byPage.get(page);
    if (sequence) sequence.push(j);
    else byPage.set(page, [j]);
  });
  const out = [...byPage.values()].reduce((sum, sequence) => sum + sequence.length - longestRun(sequence), 0);
  if (!out) return [];
  const nothing: readonly Facet[] = [];
  return [
    {
      kind: 'order',
      sentence: `Drawing order changed: ${plural(out, 'part')} ${out === 1 ? 'stands' : 'stand'} elsewhere in it`,
      facets: nothing,
      parts: out,
      weight: e.b.format === 'svg' ? 1.2 : 0.6,
    },
  ];
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
