/** Parts that came or went: with their layer, copies of one thing, in one place, or here and there. */
import { diagonal, gap, unite, type Box } from '../../geometry/box.ts';
import { plural } from '../../text/plural.ts';
import type { Change } from '../../contract/comparison.ts';
import type { Evidence, Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { capital, pluralOf, quoted, sayParts, sayPart } from './words.ts';

/** Places that are told apart, at most; what is more scattered is said in one. */
const MOST_PLACES = 3;
/** Parts closer than this share of the page stand in one place. */
const CLOSE = 0.08;

export function comings(open: Open): Found[] {
  return [...side(open, 'added'), ...side(open, 'removed')];
}

function side(open: Open, kind: 'added' | 'removed'): Found[] {
  const { evidence: e } = open;
  const out: Found[] = [];
  const all = open.facets((c) => c.kind === kind);
  if (!all.length) return out;
  if (e.b.sequential) return [{ kind, sentence: `${plural(all.length, 'line')} ${kind}`, facets: all }];
  const take = (found: Found): void => {
    out.push(found);
    open.take(found.facets);
  };
  const other = kind === 'added' ? e.a : e.b;
  const known = new Set([...(other.layers ?? []).map((l) => l.name), ...other.parts.map((p) => p.category)]);
  for (const [layer, group] of grouped(all, ([k]) => (e.changes[k] as Change).part.category)) {
    if (layer && !known.has(layer) && group.length > 1)
      take({ kind, sentence: `Layer ${quoted(layer)} ${kind} with ${plural(group.length, 'part')}`, facets: group });
  }
  const rest = open.facets((c) => c.kind === kind);
  const [only] = rest;
  if (rest.length === 1 && only)
    take({ kind, sentence: `${capital(sayPart(e.changes[only[0]] as Change))} ${kind}`, facets: rest });
  else if (rest.length) for (const found of several(e, rest, kind)) take(found);
  return out;
}

function several(e: Evidence, rest: readonly Facet[], kind: 'added' | 'removed'): Found[] {
  const places = clusters(e, rest);
  const oneThing = grouped(rest, ([k]) => sameThing(e, k));
  const [copies] = oneThing;
  if (oneThing.length === 1 && copies) return [{ kind, sentence: `${copiesOf(e, copies[1])} ${kind}`, facets: rest }];
  if (places.length > MOST_PLACES)
    return [{ kind, sentence: `${sayParts(e, rest)} ${kind}${onLayers(e, rest)}`, facets: rest }];
  return places.map((group): Found => ({
    kind,
    sentence:
      group.length === 1 ? `${sayParts(e, group)} ${kind}` : `${sayGroup(e, group)} ${kind}${onLayers(e, group)}`,
    facets: group,
  }));
}

const sameThing = (e: Evidence, k: number): string => {
  const { part, boxA, boxB } = e.changes[k] as Change;
  const box = boxB ?? boxA;
  return part.kind === 'placement'
    ? `placement ${part.name}`
    : `${part.kind} ${part.kind === 'text' ? part.name : ''} ${box ? `${Math.round((box[2] - box[0]) / (16 * e.tolerance))} ${Math.round((box[3] - box[1]) / (16 * e.tolerance))}` : ''}`;
};

function copiesOf(e: Evidence, group: readonly Facet[]): string {
  const { part } = e.changes[(group[0] as Facet)[0]] as Change;
  const n = group.length;
  return part.kind === 'placement'
    ? plural(n, `placement of ${quoted(part.name)}`, `placements of ${quoted(part.name)}`)
    : plural(n, part.kind, pluralOf(part.kind));
}

function sayGroup(e: Evidence, group: readonly Facet[]): string {
  const kinds = grouped(group, ([k]) => (e.changes[k] as Change).part.kind);
  return kinds.length <= 2
    ? kinds.map(([kind, of]) => plural(of.length, kind, pluralOf(kind))).join(' and ')
    : plural(group.length, 'part');
}

function onLayers(e: Evidence, group: readonly Facet[]): string {
  const layers = new Set(group.map(([k]) => (e.changes[k] as Change).part.category));
  const [only] = layers;
  return layers.size === 1 ? (only ? ` on layer ${quoted(only)}` : '') : ` on ${plural(layers.size, 'layer')}`;
}

/** Groups of parts that stand close to one another, on one page; the largest first. Parts without a place are one group. */
function clusters(e: Evidence, facets: readonly Facet[]): Facet[][] {
  const page = e.b.pages[0]?.box ?? e.a.pages[0]?.box;
  const reach = page ? diagonal(page) * CLOSE : 0;
  const boxes = facets.map(([k]) => (e.changes[k] as Change).boxB ?? (e.changes[k] as Change).boxA);
  // A grid of cells as wide as the reach: only neighbours need comparing.
  const groups: { box: Box; page: string; facets: Facet[] }[] = [];
  const none: Facet[] = [];
  facets.forEach((facet, n) => {
    const box = boxes[n];
    const name = (e.changes[facet[0]] as Change).part.page;
    if (!box) {
      none.push(facet);
      return;
    }
    const near = groups.filter((g) => g.page === name && gap(g.box, box) <= reach);
    const [first] = near;
    if (!first) {
      groups.push({ box, page: name, facets: [facet] });
      return;
    }
    first.facets.push(facet);
    first.box = unite(first.box, box) as Box;
    for (const g of near.slice(1)) {
      first.facets.push(...g.facets);
      first.box = unite(first.box, g.box) as Box;
      groups.splice(groups.indexOf(g), 1);
    }
  });
  return [...groups.map((g) => g.facets), ...(none.length ? [none] : [])].sort((p, q) => q.length - p.length);
}
