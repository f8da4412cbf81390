/** Everything else: looks, formatting, outlines and other properties, grouped by what they went to. */
import type { ChangeDraft } from '../../../causes/draft.ts';
import type { CauseKind, Difference } from '../../../contract/comparison.ts';
import type { Design } from '../../../model/design.ts';
import { paintOf, type Paint } from '../paint.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';
import { changesOf, thoseOf } from './words.ts';

const kindOf: Partial<Record<Difference['aspect'], CauseKind>> = {
  style: 'style',
  formatting: 'formatting',
  geometry: 'reshaped',
  placement: 'motion',
  layer: 'relayered',
};

const steps: readonly ((open: Open) => Explanation[])[] = [
  paints,
  (open) => [...looks(open, 'style'), ...looks(open, 'formatting')],
  (open) => [...outlines(open), ...others(open)],
];

export function properties(open: Open): Explanation[] {
  return steps.flatMap((step) => {
    const found = step(open);
    for (const explanation of found) open.take(explanation.facets);
    return found;
  });
}

const differenceAt = (e: DrawingEvidence, [k, d]: Facet): Difference =>
  (e.changes[k] as ChangeDraft).what[d] as Difference;

const isPlace = (w: Difference): boolean => w.aspect === 'placement' && w.property === undefined;

const paintName = (design: Design, { kind, print }: Paint): string =>
  design.definitions.find((d) => d.kind === kind && d.fingerprint.startsWith(print))?.name ?? '';

/** A gradient, pattern or clip that changed shows at each part that is drawn with it. */
function paints(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((_, w) => {
    const from = w?.aspect === 'style' ? paintOf(w.from) : undefined;
    return from !== undefined && from.kind === paintOf(w?.to ?? '')?.kind;
  });
  const pairOf = (facet: Facet): string => `${differenceAt(e, facet).from}\n${differenceAt(e, facet).to}`;
  return grouped(facets, pairOf).flatMap(([pair, group]) => {
    const [before, after] = pair.split('\n').map(paintOf);
    return before && after ? [repainted(e, before, after, group)] : [];
  });
}

function repainted(e: DrawingEvidence, before: Paint, after: Paint, facets: readonly Facet[]): Explanation {
  const from = paintName(e.a, before);
  const to = paintName(e.b, after);
  const { kind } = after;
  const parts = changesOf(facets).size;
  if (from && to && from !== to)
    return { kind: 'replaced', saying: { code: 'paint-replaced', values: { kind, from, to, parts } }, facets };
  return { kind: 'definition', saying: { code: 'paint-changed', values: { kind, name: to, parts } }, facets };
}

/** Parts of one kind of change are few enough to be said one by one up to here. */
const FEW = 2;

/** Changes of look: those with the same new values are one act, from whatever they were. */
function looks(open: Open, aspect: 'style' | 'formatting'): Explanation[] {
  const { evidence: e } = open;
  const ofChange = new Map<number, Facet[]>();
  for (const facet of open.facets((_, w) => w?.aspect === aspect))
    ofChange.set(facet[0], [...(ofChange.get(facet[0]) ?? []), facet]);
  const groups = new Map<string, Facet[][]>();
  for (const list of ofChange.values()) {
    const key = newLook(e, list);
    groups.set(key, [...(groups.get(key) ?? []), list]);
  }
  const single = [...groups.values()].filter((g) => g.length === 1).flat();
  const scattered = single.length > FEW;
  const tight = [...groups.values()].filter((g) => g.length > 1 || !scattered);
  const found = tight.map((lists) => oneLook(e, aspect, lists));
  return scattered ? [...found, ...eachItsOwn(e, aspect, single)] : found;
}

const newLook = (e: DrawingEvidence, list: readonly Facet[]): string =>
  list
    .map((facet) => `${differenceAt(e, facet).property}=${differenceAt(e, facet).to}`)
    .sort()
    .join('|');

/** Parts that all look like this now. */
function oneLook(e: DrawingEvidence, aspect: 'style' | 'formatting', lists: readonly Facet[][]): Explanation {
  const facets = lists.flat();
  const values = (lists[0] ?? []).map((facet) => {
    const { property = aspect, to } = differenceAt(e, facet);
    const before = new Set(
      facets.map((f) => differenceAt(e, f)).flatMap((w) => (w.property === property ? w.from : [])),
    );
    const [from] = before;
    return before.size === 1 && from !== undefined ? { property, from, to } : { property, to };
  });
  return { kind: aspect, saying: { code: 'look-changed', values: { who: thoseOf(e, facets), values } }, facets };
}

/** Where every part got a value of its own, only what was changed can be said. */
function eachItsOwn(e: DrawingEvidence, aspect: 'style' | 'formatting', lists: readonly Facet[][]): Explanation[] {
  const namesOf = new Map(
    lists.map((list) => [
      list[0]?.[0] ?? -1,
      [...new Set(list.map((facet) => differenceAt(e, facet).property ?? aspect))].sort().join('\n'),
    ]),
  );
  return grouped(lists.flat(), ([k]) => namesOf.get(k)).map(([names, group]): Explanation => {
    const values = { who: thoseOf(e, group), properties: names.split('\n') };
    return { kind: aspect, saying: { code: 'looks-changed', values }, facets: group };
  });
}

function outlines(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets(
    (_, w) => w !== undefined && (w.aspect === 'geometry' || isPlace(w) || w.aspect === 'kind'),
  );
  if (!facets.length) return [];
  const change = sameReshaping(e, facets);
  const values = { who: thoseOf(e, facets), ...(change && change.from !== change.to ? change : {}) };
  return [{ kind: 'reshaped', saying: { code: 'reshaped', values }, facets }];
}

/** From what to what all outlines went, if they all did. */
function sameReshaping(e: DrawingEvidence, facets: readonly Facet[]): { from: string; to: string } | undefined {
  const reshaped = facets.filter((facet) => differenceAt(e, facet).aspect === 'geometry');
  const ways = grouped(reshaped, (facet) => {
    const { from, to } = differenceAt(e, facet);
    return `${e.changes[facet[0]]?.part.kind}\n${from}\n${to}`;
  });
  const [way] = ways;
  if (!way || way[1].length < changesOf(facets).size) return undefined;
  const { from, to } = differenceAt(e, way[1][0] as Facet);
  return { from, to };
}

function others(open: Open): Explanation[] {
  const { evidence: e } = open;
  const rest = open.facets(
    (c, w) => w !== undefined && w.aspect !== 'geometry' && w.aspect !== 'kind' && !isPlace(w) && c.kind !== 'added',
  );
  const sortOf = (facet: Facet): string => {
    const { aspect, property = '' } = differenceAt(e, facet);
    return `${aspect}\n${property}`;
  };
  return grouped(rest, sortOf).map(([, group]): Explanation => {
    const first = differenceAt(e, group[0] as Facet);
    const to = new Set(group.map((facet) => differenceAt(e, facet).to));
    const values = {
      who: thoseOf(e, group),
      property: first.property ?? first.aspect,
      ...(group.length === 1 ? { from: first.from } : {}),
      ...(to.size === 1 ? { to: first.to } : {}),
    };
    return { kind: kindOf[first.aspect] ?? 'property', saying: { code: 'property-changed', values }, facets: group };
  });
}
