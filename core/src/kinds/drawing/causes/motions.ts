/** Parts that went together: one rigid motion, one scaling, one stretch. */
import type { Difference } from '../../../contract/comparison.ts';
import type { Motion } from '../../../match/motion.ts';
import type { Point3 } from '../../../mesh/mesh.ts';
import { placePoint, type Placing } from '../../../mesh/placing.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';
import { changesOf, pointOf, shiftOf, thoseOf } from './words.ts';

export function motions(open: Open): Explanation[] {
  const rigid = rigidMotions(open);
  return [...rigid, ...stretches(open), ...scalings(open)];
}

const isPlace = (w: Difference | undefined): boolean => w?.aspect === 'placement' && w.property === undefined;

const motionOf = (e: DrawingEvidence, [k]: Facet): Motion => e.details[k]?.motion as Motion;

const firstMotion = (e: DrawingEvidence, group: readonly Facet[]): Motion => motionOf(e, group[0] as Facet);

function stretchedFacets(open: Open): Facet[] {
  const { details } = open.evidence;
  return open.facets((_, w, k) => details[k]?.stretch !== undefined && (w?.aspect === 'geometry' || isPlace(w)));
}

function rigidMotions(open: Open): Explanation[] {
  const { evidence: e } = open;
  const moved = open.facets((_, w, k) => isPlace(w) && e.details[k]?.motion !== undefined);
  const byMotion = grouped(moved, (facet) => motionKey(e, motionOf(e, facet)));
  const groups = withRound(e, merged(e, byMotion));
  const stretched = stretchedFacets(open);
  const taken = new Set<number>();
  const out: Explanation[] = [];
  for (const group of groups) {
    const motion = firstMotion(e, group);
    const rest = group.filter(([k]) => !taken.has(k));
    if (isScaling(motion) || !rest.length || isOneEnd(e, rest, motion)) continue;
    const along = stretched.filter((facet) => !taken.has(facet[0]) && goesAlong(e, facet, motion));
    for (const [k] of along) taken.add(k);
    const facets = [...rest, ...along];
    out.push({ kind: along.length ? 'stretch' : 'motion', saying: sayMotion(e, motion, rest, along), facets });
    open.take(facets);
  }
  return out;
}

/** One end of a line that stays makes a turn of its own; it belongs to the stretch. */
function isOneEnd(e: DrawingEvidence, rest: readonly Facet[], motion: Motion): boolean {
  const [first] = rest;
  const stretched = first !== undefined && e.details[first[0]]?.stretch !== undefined;
  return rest.length === 1 && stretched && Math.abs(motion.turn) > 0.01;
}

/** What was stretched by what a motion shifts belongs to it. */
const goesAlong = (e: DrawingEvidence, [k]: Facet, motion: Motion): boolean =>
  Math.abs(motion.turn) < 0.01 && !motion.mirrored && near(e, e.details[k]?.stretch, motion);

function sayMotion(
  e: DrawingEvidence,
  motion: Motion,
  rest: readonly Facet[],
  along: readonly Facet[],
): Explanation['saying'] {
  const common = { who: thoseOf(e, rest), stretched: changesOf(along).size };
  if (motion.mirrored) return { code: 'moved', values: { ...common, how: 'mirrored' } };
  if (Math.abs(motion.turn) < 0.01)
    return {
      code: 'moved',
      values: { ...common, how: 'moved', by: shiftOf(e, motion.dx, motion.dy, motion.space?.dz) },
    };
  if (motion.space) {
    const turn = Math.round(motion.turn * 1000) / 1000;
    return { code: 'moved', values: { ...common, how: 'turned', turn, axis: motion.space.axis } };
  }
  const up = e.b.yUp ? -1 : 1;
  const turn = Math.round(up * motion.turn * 1000) / 1000;
  const centre = fixedPoint(motion);
  const about = centre && pointOf(e, centre);
  return { code: 'moved', values: { ...common, how: 'turned', turn, ...(about ? { about } : {}) } };
}

/** What was stretched by itself. */
function stretches(open: Open): Explanation[] {
  const { evidence: e } = open;
  const shiftOfFacet = ([k]: Facet): readonly [number, number] => e.details[k]?.stretch as readonly [number, number];
  const groups = grouped(stretchedFacets(open), (facet) => shiftKey(e, shiftOfFacet(facet)));
  return groups.map(([, group]): Explanation => {
    const [dx, dy] = shiftOfFacet(group[0] as Facet);
    open.take(group);
    const values = { who: thoseOf(e, group), by: shiftOf(e, dx, dy) };
    return { kind: 'stretch', saying: { code: 'stretched', values }, facets: group };
  });
}

const round: ReadonlySet<string> = new Set(['circle', 'point']);

/** Round things show no turn: they belong to whatever turned or scaled their middles where they are now. */
function withRound(e: DrawingEvidence, groups: readonly Facet[][]): Facet[][] {
  const turning = groups.filter((g) => g.length > 1 && !isShift(e.details[(g[0] as Facet)[0]]?.motion as Motion));
  if (!turning.length) return [...groups];
  const middle = (box: readonly number[] | null | undefined): readonly [number, number] | undefined =>
    box ? [((box[0] as number) + (box[2] as number)) / 2, ((box[1] as number) + (box[3] as number)) / 2] : undefined;
  const fits = ([k]: Facet): Facet[] | undefined => {
    const change = e.changes[k];
    const from = middle(change?.boxA);
    const to = middle(change?.boxB);
    if (!change || !round.has(change.part.kind) || !from || !to) return undefined;
    return turning.find((g) => {
      const m = e.details[(g[0] as Facet)[0]]?.motion as Motion;
      const y = m.mirrored ? -from[1] : from[1];
      return (
        Math.hypot(m.re * from[0] - m.im * y + m.x - to[0], m.im * from[0] + m.re * y + m.y - to[1]) <=
        64 * e.tolerance + 1e-4 * Math.hypot(m.x, m.y)
      );
    });
  };
  return groups
    .map((group) =>
      turning.includes(group)
        ? group
        : group.filter((facet) => {
            const home = fits(facet);
            home?.push(facet);
            return home === undefined;
          }),
    )
    .filter((g) => g.length > 0);
}

const isShift = (m: Motion): boolean => Math.abs(m.turn) < 0.01 && !m.mirrored && !isScaling(m);

const isScaling = (m: Motion): boolean => Math.abs(m.scale - 1) > 1e-5;

/** Several parts scaled by the same about the same point. */
function scalings(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((_, w, k) => {
    const motion = e.details[k]?.motion;
    return (w?.aspect === 'geometry' || isPlace(w)) && motion !== undefined && isScaling(motion);
  });
  const inPlace = (m: Motion): boolean => Math.hypot(m.dx, m.dy) <= 2 * e.tolerance;
  const still = facets.filter((facet) => inPlace(motionOf(e, facet)));
  const going = facets.filter((facet) => !inPlace(motionOf(e, facet)));
  const byScale = grouped(still, (facet) => motionOf(e, facet).scale.toFixed(4)).map(([, group]) => group);
  const byMotion = grouped(going, (facet) => motionKey(e, motionOf(e, facet)));
  const out: Explanation[] = [];
  for (const group of [...byScale, ...withRound(e, merged(e, byMotion))]) {
    if (changesOf(group).size < 2) continue;
    const motion = firstMotion(e, group);
    const centre = fixedPoint(motion);
    const about = inPlace(motion) ? ('each' as const) : centre && pointOf(e, centre);
    const values = { who: thoseOf(e, group), scale: motion.scale, ...(about ? { about } : {}) };
    out.push({ kind: 'scale', saying: { code: 'scaled', values }, facets: group });
    open.take(group);
  }
  return out;
}

/** The point that a turn or a scaling leaves where it is: β / (1 − α). */
function fixedPoint({ re, im, x, y, mirrored, space }: Motion): readonly [number, number] | undefined {
  if (space) return undefined;
  const ar = 1 - re;
  const ai = -im;
  const norm = ar * ar + ai * ai;
  return mirrored || norm < 1e-12 ? undefined : [(x * ar + y * ai) / norm, (y * ar - x * ai) / norm];
}

const shiftKey = (e: DrawingEvidence, [dx, dy]: readonly [number, number]): string =>
  `${Math.round(dx / (8 * e.tolerance))} ${Math.round(dy / (8 * e.tolerance))}`;

const near = (e: DrawingEvidence, stretch: readonly [number, number] | undefined, m: Motion): boolean =>
  stretch !== undefined &&
  Math.abs(stretch[0] - m.dx) <= 8 * e.tolerance &&
  Math.abs(stretch[1] - m.dy) <= 8 * e.tolerance;

/**
 * Equal for equal motions of the page. Shifts are compared as such; turns by angle and by where they leave the middle
 * of the page.
 */
function motionKey(e: DrawingEvidence, m: Motion): string {
  const turned = Math.abs(m.turn) >= 0.01 || m.mirrored || isScaling(m);
  if (!turned) return `shift ${shiftKey(e, [m.dx, m.dy])} ${Math.round((m.space?.dz ?? 0) / (8 * e.tolerance))}`;
  if (m.space) return placingKey(e, m, m.space.placing);
  const box = e.b.pages[0]?.box ?? [0, 0, 0, 0];
  const cx = (box[0] + box[2]) / 2;
  const cy = ((box[1] + box[3]) / 2) * (m.mirrored ? -1 : 1);
  const px = m.re * cx - m.im * cy + m.x;
  const py = m.im * cx + m.re * cy + m.y;
  const grain = Math.max(box[2] - box[0], box[3] - box[1]) * 2e-4 + 64 * e.tolerance;
  return `turn ${m.mirrored ? 'mirrored' : ''} ${m.turn.toFixed(1)} ${m.scale.toFixed(4)} ${Math.round(px / grain)} ${Math.round(py / grain)}`;
}

/** Corners of the model, which tell motions in space apart. */
function cornersOf(e: DrawingEvidence): Point3[] {
  const [x0, y0, x1, y1] = e.b.pages[0]?.box ?? [0, 0, 0, 0];
  const rise = Math.max(x1 - x0, y1 - y0);
  return [
    [x0, y0, 0],
    [x1, y1, 0],
    [x0, y1, rise],
  ];
}

function placingKey(e: DrawingEvidence, m: Motion, placing: Placing): string {
  const [corner = [0, 0, 0], other = [0, 0, 0]] = cornersOf(e);
  const grain = Math.hypot(other[0] - corner[0], other[1] - corner[1]) * 2e-4 + 64 * e.tolerance;
  const landed = cornersOf(e).flatMap((point) => placePoint(placing, point));
  return `placed ${m.mirrored ? 'mirrored' : ''} ${landed.map((value) => Math.round(value / grain)).join(' ')}`;
}

function samePlacing(e: DrawingEvidence, p: Placing, q: Placing): boolean {
  const [corner = [0, 0, 0], other = [0, 0, 0]] = cornersOf(e);
  const reach = Math.hypot(other[0] - corner[0], other[1] - corner[1]) * 1e-3 + 100 * e.tolerance;
  return cornersOf(e).every((point) => {
    const [from, to] = [placePoint(p, point), placePoint(q, point)];
    return Math.hypot(from[0] - to[0], from[1] - to[1], from[2] - to[2]) <= reach;
  });
}

/** Groups whose keys differ only by rounding are one. */
function merged(e: DrawingEvidence, groups: readonly (readonly [string, Facet[]])[]): Facet[][] {
  const out: { m: Motion; facets: Facet[] }[] = [];
  for (const [, facets] of groups) {
    const m = e.details[(facets[0] as Facet)[0]]?.motion as Motion;
    const twin = out.length < 200 ? out.find((o) => same(e, o.m, m)) : undefined;
    if (twin) twin.facets.push(...facets);
    else out.push({ m, facets });
  }
  return out.map((o) => o.facets);
}

function same(e: DrawingEvidence, p: Motion, q: Motion): boolean {
  if (p.mirrored !== q.mirrored || Math.abs(p.scale - q.scale) > 1e-4) return false;
  const turned = Math.abs(p.turn) >= 0.01 || p.mirrored || isScaling(p);
  if (!turned)
    return (
      Math.abs(q.turn) < 0.01 &&
      Math.abs(p.dx - q.dx) <= 6 * e.tolerance &&
      Math.abs(p.dy - q.dy) <= 6 * e.tolerance &&
      Math.abs((p.space?.dz ?? 0) - (q.space?.dz ?? 0)) <= 6 * e.tolerance
    );
  if (p.space && q.space) return samePlacing(e, p.space.placing, q.space.placing);
  const box = e.b.pages[0]?.box ?? [0, 0, 0, 0];
  const size = Math.max(box[2] - box[0], box[3] - box[1]);
  const at = (m: Motion, x: number, y: number): [number, number] => [
    m.re * x - m.im * (m.mirrored ? -y : y) + m.x,
    m.im * x + m.re * (m.mirrored ? -y : y) + m.y,
  ];
  return (
    Math.abs(p.turn - q.turn) < 0.1 &&
    [
      [box[0], box[1]],
      [box[2], box[3]],
    ].every(([x = 0, y = 0]) => {
      const [px, py] = at(p, x, y);
      const [qx, qy] = at(q, x, y);
      return Math.hypot(px - qx, py - qy) <= size * 1e-3 + 100 * e.tolerance;
    })
  );
}
