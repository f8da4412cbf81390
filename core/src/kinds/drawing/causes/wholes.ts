/** What happened to the drawing as a whole: units, origin, scale, pages. */
import { diagonal } from '../../../geometry/box.ts';
import { angleOf, type Matrix } from '../../../geometry/matrix.ts';
import type { Design, Page } from '../../../model/design.ts';
import { longestRising } from '../../../match/rising.ts';
import type { Registration } from '../../../match/registration.ts';
import { isShownAlike, unitsExplain, unitsRatio } from '../units.ts';
import type { DrawingEvidence, Explanation, Facet, Open } from './open.ts';
import { shiftOf } from './words.ts';

/** What was done to all of a drawing comes before what was done to its parts. */
const UNITS = 20;
const RESIZED = 18.5;
const PLACED = 18;
/** Nothing is drawn otherwise. */
const CONVERTED = 2;
const PAGE = 6;
/** Share of a size that rounding makes. */
const ROUNDED = 1e-4;

export function wholes(open: Open): Explanation[] {
  const larger = [...units(open.evidence), ...placed(open.evidence), ...pages(open)];
  // A page that was resized, or everything on it, is seen otherwise for that reason.
  return larger.length > 0 ? larger : seenOtherwise(open.evidence);
}

const convertedBy = ({ a, b, registration }: DrawingEvidence): boolean =>
  registration !== undefined && unitsExplain(a, b, registration);

function units(e: DrawingEvidence): Explanation[] {
  const { a, b } = e;
  const names = { from: a.origin.units ?? 'none', to: b.origin.units ?? 'none' };
  const common = { kind: 'units', facets: [], parts: b.parts.length, weight: UNITS } as const;
  const ratio = unitsRatio(a, b);
  const isConverted = convertedBy(e);
  if (isConverted && names.from !== names.to)
    return [{ ...common, saying: { code: 'units-converted', values: names } }];
  if (isConverted || ratio !== 1)
    return [{ ...common, saying: { code: 'numbers-converted', values: { ratio } }, weight: CONVERTED }];
  const from = a.pages[0]?.unitMillimetres ?? 0;
  const to = b.pages[0]?.unitMillimetres ?? 0;
  if (a.format !== b.format || a.origin.units === b.origin.units || from === to || isShownAlike(a, b)) return [];
  const grown = from && to ? { ratio: to / from } : {};
  return [{ ...common, saying: { code: 'units-renamed', values: { ...names, ...grown } } }];
}

/** Everything moved, turned or scaled. */
function placed(e: DrawingEvidence): Explanation[] {
  const { b, registration } = e;
  const how = registration && howPlaced(e, registration);
  if (!how) return [];
  const facets = e.changes.flatMap((c, k): Facet[] => (e.details[k]?.global ? [[k, c.what.length - 1]] : []));
  const parts = facets.length || b.parts.length;
  const kind = how.scale === undefined ? 'origin' : 'scale';
  return [{ kind, saying: { code: 'everything-placed', values: { ...how, parts } }, facets, parts, weight: PLACED }];
}

type HowPlaced = { readonly scale?: number; readonly turn?: number; readonly shift?: ReturnType<typeof shiftOf> };

/** Undefined where a change of units is all that was done. */
function howPlaced(e: DrawingEvidence, { matrix, scale, turn }: Registration): HowPlaced | undefined {
  const ratio = unitsRatio(e.a, e.b);
  // Of rounded numbers the scale is known less well.
  const nearly = e.unseen.size > 0 && ratio !== 1 && Math.abs(scale / ratio - 1) < 1e-3;
  const converted = nearly || convertedBy(e);
  if ((converted || scale === 1) && turn === 0 && isRounded(e, matrix)) return undefined;
  const shifted = Math.hypot(matrix[4], matrix[5]) > e.tolerance * 4;
  if (converted && !shifted) return undefined;
  const up = e.b.yUp ? -1 : 1;
  return {
    ...(!converted && Math.abs(scale - 1) > 1e-6 ? { scale } : {}),
    ...(Math.abs(turn) > 1e-4 ? { turn: up * angleOf(matrix) } : {}),
    ...(shifted ? { shift: shiftOf(e, matrix[4], matrix[5]) } : {}),
  };
}

/** Numbers that another program rounded lie a little to one side on the whole. */
function isRounded({ b, unseen }: DrawingEvidence, matrix: Matrix): boolean {
  const page = b.pages[0];
  const least = ROUNDED * (page ? diagonal(page.box) : 0);
  return unseen.size > 0 && Math.hypot(matrix[4], matrix[5]) < least;
}

function pages(open: Open): Explanation[] {
  const { evidence: e } = open;
  const { a, b } = e;
  return [
    ...comings(open, 'added', b, a),
    ...comings(open, 'removed', a, b),
    ...moved(a, b),
    ...turned(e),
    ...resized(e),
  ];
}

function comings(open: Open, verb: 'added' | 'removed', mine: Design, theirs: Design): Explanation[] {
  if (mine.pages.length < 2) return [];
  const here = (page: Page): boolean => page.place !== -1;
  const fresh = mine.pages.filter(
    (page) => here(page) && !theirs.pages.some((other) => other.name === page.name && here(other)),
  );
  return fresh.map(({ name }): Explanation => {
    const facets = open.facets((c) => c.kind === verb && c.part.page === name);
    const values = { name, verb, parts: facets.length };
    return { kind: 'page', saying: { code: 'page-came', values }, facets, ...(facets.length ? {} : { weight: 1 }) };
  });
}

type Size = readonly [number, number];

/** The one page of a drawing shows another part of it, or is shown in another size. */
function seenOtherwise({ a, b, tolerance }: DrawingEvidence): Explanation[] {
  const [before, after] = [a.pages[0], b.pages[0]];
  if (!before || !after || a.pages.length > 1 || b.pages.length > 1 || b.traits.pageSize?.unless !== 'placed')
    return [];
  const common = { kind: 'page', facets: [], parts: 0, weight: PAGE } as const;
  const found: Explanation[] = [];
  const corner = ({ box }: Page): Size => [box[0], box[1]];
  const [from, to] = [corner(before), corner(after)];
  if (from.some((v, k) => Math.abs(v - (to[k] ?? 0)) > tolerance * 4))
    found.push({ ...common, saying: { code: 'page-window', values: { from, to } } });
  const frames = before.frame && after.frame ? { from: before.frame, to: after.frame } : undefined;
  if (!frames) return found;
  const isOther = frames.from.size.some((v, k) => Math.abs(v / (frames.to.size[k] ?? v) - 1) > 1e-3);
  if (isOther)
    found.push({ ...common, saying: { code: 'page-shown', values: { from: frames.from.size, to: frames.to.size } } });
  else if (frames.from.fit !== frames.to.fit)
    found.push({ ...common, saying: { code: 'page-fitted', values: { from: frames.from.fit, to: frames.to.fit } } });
  return found;
}

/** Pages that were turned by the same quarters are one act. */
function turned({ a }: DrawingEvidence): Explanation[] {
  const byTurn = new Map<number, string[]>();
  for (const { name, turned: degrees } of a.pages)
    if (degrees !== undefined) byTurn.set(degrees, [...(byTurn.get(degrees) ?? []), name]);
  return [...byTurn].map(([degrees, names]): Explanation => ({
    kind: 'page',
    saying: { code: 'page-turned', values: { degrees, names } },
    facets: [],
    parts: 0,
    weight: PAGE,
  }));
}

/** Pages that are larger or smaller now: one cause for all that went the same way. */
function resized(e: DrawingEvidence): Explanation[] {
  const { a, b } = e;
  const { pageSize } = b.traits;
  if (!pageSize || (pageSize.unless === 'placed' && (e.registration || unitsRatio(a, b) !== 1))) return [];
  const sizeOf = ({ box }: Page): Size => {
    const size: Size = [(box[2] - box[0]) * pageSize.factor, (box[3] - box[1]) * pageSize.factor];
    return pageSize.whole ? [Math.round(size[0]), Math.round(size[1])] : size;
  };
  const ways = new Map<string, { from: Size; to: Size; names: string[] }>();
  b.pages.forEach((page, k) => {
    const before = pageSize.unless === 'placed' && k === 0 ? a.pages[0] : samePage(a, page);
    if (!before || sameSize(before, page, e.tolerance)) return;
    const [from, to] = [sizeOf(before), sizeOf(page)];
    const way = [...from, ...to].map((v) => v.toPrecision(5)).join(' ');
    // What another program rounded is no other size.
    const noise = e.unseen.size > 0 ? ROUNDED : 0;
    const isNoise = from.every((v, n) => Math.abs(v - (to[n] ?? 0)) <= noise * Math.abs(v));
    if (isNoise || from.every((v, n) => v.toPrecision(5) === to[n]?.toPrecision(5))) return;
    const known = ways.get(way);
    if (known) known.names.push(page.name);
    else ways.set(way, { from, to, names: [page.name] });
  });
  const weight = pageSize.unless === 'placed' ? PAGE : RESIZED;
  return [...ways.values()].map((way): Explanation => ({
    kind: 'page',
    saying: { code: 'page-resized', values: { ...way, unit: pageSize.unit ?? e.unit } },
    facets: [],
    parts: 0,
    weight,
  }));
}

const samePage = (a: Design, page: Page): Page | undefined =>
  a.pages.find((p) => p.name === page.name && p.place !== -1);

/** Pages that stand elsewhere in the row of those that stayed. */
function moved(a: Design, b: Design): Explanation[] {
  const order = b.pages.flatMap(({ name }, j) => {
    const before = a.pages[j];
    const was = before?.place ?? -1;
    return was >= 0 && before?.name === name ? [{ name, was }] : [];
  });
  const stayed = new Set(longestRising(order.map((p) => p.was)));
  return order
    .filter(({ was }) => !stayed.has(was))
    .map(({ name, was }): Explanation => ({
      kind: 'page',
      saying: { code: 'page-moved', values: { name, was: was + 1 } },
      facets: [],
      parts: 0,
      weight: PAGE,
    }));
}

const sameSize = (p: Page, q: Page, tolerance: number): boolean =>
  p.box.every((v, k) => Math.abs(v - (q.box[k] as number)) <= 8 * tolerance);
