/** Parts that came or went: with their layer, copies of one thing, in one place, or here and there. */
import type { ChangeDraft } from '../../../causes/draft.ts';
import type { OnLayers } from '../../../causes/sayings/drawing.ts';
import { diagonal, gap, unite, type Box } from '../../../geometry/box.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';
import { calledOf, thoseOf } from './words.ts';

type Verb = 'added' | 'removed';

/** Places that are told apart, at most; what is more scattered is said in one. */
const MOST_PLACES = 3;
/** Parts closer than this share of the page stand in one place. */
const CLOSE = 0.08;

export function comings(open: Open): Explanation[] {
  return [...side(open, 'added'), ...side(open, 'removed')];
}

function side(open: Open, verb: Verb): Explanation[] {
  const { evidence: e } = open;
  const ofSide = (): Facet[] => open.facets((c) => c.kind === verb);
  const out = withLayers(e, ofSide(), verb);
  for (const found of out) open.take(found.facets);
  const rest = ofSide();
  return rest.length ? [...out, ...others(e, rest, verb)] : out;
}

/** Layers that only one side has, with what is on them. */
function withLayers(e: DrawingEvidence, all: readonly Facet[], verb: Verb): Explanation[] {
  const other = verb === 'added' ? e.a : e.b;
  const known = new Set([...(other.layers ?? []).map((l) => l.name), ...other.parts.map((p) => p.category)]);
  return grouped(all, ([k]) => (e.changes[k] as ChangeDraft).part.category).flatMap(([name, group]): Explanation[] =>
    name && !known.has(name) && group.length > 1
      ? [
          {
            kind: verb,
            saying: { code: 'layer-came', values: { name, verb, parts: group.length, ...calledOf(e) } },
            facets: group,
          },
        ]
      : [],
  );
}

function others(e: DrawingEvidence, rest: readonly Facet[], verb: Verb): Explanation[] {
  if (rest.length === 1) return [{ kind: verb, saying: partsCame(e, rest, verb), facets: rest }];
  const sorts = grouped(rest, ([k]) => sameThing(e, k));
  if (sorts.length === 1) return [{ kind: verb, saying: copiesCame(e, rest, verb), facets: rest }];
  const places = clusters(e, rest);
  if (places.length > MOST_PLACES) {
    const values = { who: thoseOf(e, rest), verb, layers: layersOf(e, rest) };
    return [{ kind: verb, saying: { code: 'parts-came', values }, facets: rest }];
  }
  return places.map((group): Explanation => ({
    kind: verb,
    saying: group.length === 1 ? partsCame(e, group, verb) : groupCame(e, group, verb),
    facets: group,
  }));
}

type Saying = Explanation['saying'];

const partsCame = (e: DrawingEvidence, group: readonly Facet[], verb: Verb): Saying => ({
  code: 'parts-came',
  values: { who: thoseOf(e, group), verb },
});

function copiesCame(e: DrawingEvidence, group: readonly Facet[], verb: Verb): Saying {
  const { part } = e.changes[(group[0] as Facet)[0]] as ChangeDraft;
  const count = group.length;
  return part.kind === 'placement'
    ? { code: 'copies-came', values: { count, of: part.name, verb } }
    : { code: 'parts-came', values: { who: { count, kind: part.kind }, verb } };
}

/** Kinds that are named beside one another in one sentence, at most. */
const MOST_KINDS = 2;

function groupCame(e: DrawingEvidence, group: readonly Facet[], verb: Verb): Saying {
  const kinds = grouped(group, ([k]) => (e.changes[k] as ChangeDraft).part.kind);
  const named = kinds.length <= MOST_KINDS ? kinds : [];
  return {
    code: 'group-came',
    values: {
      kinds: named.map(([kind, of]) => ({ kind, count: of.length })),
      count: group.length,
      verb,
      layers: layersOf(e, group),
    },
  };
}

function layersOf(e: DrawingEvidence, group: readonly Facet[]): OnLayers {
  const layers = new Set(group.map(([k]) => (e.changes[k] as ChangeDraft).part.category));
  return { count: layers.size, name: [...layers][0] ?? '', ...calledOf(e) };
}

/** Equal for copies of one thing. */
function sameThing(e: DrawingEvidence, k: number): string {
  const { part, boxA, boxB } = e.changes[k] as ChangeDraft;
  if (part.kind === 'placement') return `placement ${part.name}`;
  const words = part.kind === 'text' ? part.name : '';
  const box = boxB ?? boxA;
  const coarse = (length: number): number => Math.round(length / (16 * e.tolerance));
  const size = box ? `${coarse(box[2] - box[0])} ${coarse(box[3] - box[1])}` : '';
  return `${part.kind} ${words} ${size}`;
}

/**
 * Groups of parts that stand close to one another, on one page; the largest first. Parts without a place are one
 * group.
 */
function clusters(e: DrawingEvidence, facets: readonly Facet[]): Facet[][] {
  const page = e.b.pages[0]?.box ?? e.a.pages[0]?.box;
  const reach = page ? diagonal(page) * CLOSE : 0;
  const boxes = facets.map(([k]) => (e.changes[k] as ChangeDraft).boxB ?? (e.changes[k] as ChangeDraft).boxA);
  // A grid of cells as wide as the reach: only neighbours need comparing.
  const groups: { box: Box; page: string; facets: Facet[] }[] = [];
  const none: Facet[] = [];
  facets.forEach((facet, n) => {
    const box = boxes[n];
    const name = (e.changes[facet[0]] as ChangeDraft).part.page;
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
