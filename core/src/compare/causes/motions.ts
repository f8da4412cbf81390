/** Parts that went together: one rigid motion, one scaling, one stretch. */
import { plural } from '../../text/plural.ts';
import type { Motion } from '../../match/motion.ts';
import type { Evidence, Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { kindOf, pluralOf, sayNumber, sayParts, sayPoint, sayShift } from './words.ts';

export function motions(open: Open): Found[] {
  const { evidence: e } = open;
  const out: Found[] = [];
  const moved = open.facets(
    (_, w, k) => w?.aspect === 'placement' && w.property === undefined && e.details[k]?.motion !== undefined,
  );
  const groups = withRound(
    e,
    merged(
      e,
      grouped(moved, ([k]) => motionKey(e, e.details[k]?.motion as Motion)),
    ),
  );
  const stretched = open.facets(
    (_, w, k) =>
      e.details[k]?.stretch !== undefined &&
      (w?.aspect === 'geometry' || (w?.aspect === 'placement' && w.property === undefined)),
  );
  const taken = new Set<number>();
  for (const group of groups) {
    const motion = e.details[(group[0] as Facet)[0]]?.motion as Motion;
    if (isScaling(motion)) continue;
    const rest = group.filter(([k]) => !taken.has(k));
    if (!rest.length) continue;
    // One end of a line that stays makes a turn of its own; it belongs to the stretch.
    const single =
      rest.length === 1 && e.details[(rest[0] as Facet)[0]]?.stretch !== undefined && Math.abs(motion.turn) > 0.01;
    if (single) continue;
    const along =
      Math.abs(motion.turn) < 0.01 && !motion.mirrored
        ? stretched.filter(([k]) => !taken.has(k) && near(e, e.details[k]?.stretch, motion))
        : [];
    for (const [k] of along) taken.add(k);
    const others = along.length
      ? `, and ${plural(new Set(along.map(([k]) => k)).size, 'part')} stretched with ${rest.length === 1 ? 'it' : 'them'}`
      : '';
    out.push({
      kind: along.length ? 'stretch' : 'motion',
      sentence: `${who(e, rest)} ${how(e, motion, rest)}${others}`,
      facets: [...rest, ...along],
    });
    open.take([...rest, ...along]);
  }
  const alone = stretched.filter(([k]) => !taken.has(k));
  for (const [, group] of grouped(alone, ([k]) => shiftKey(e, e.details[k]?.stretch as readonly [number, number]))) {
    const [dx, dy] = e.details[(group[0] as Facet)[0]]?.stretch as readonly [number, number];
    out.push({ kind: 'stretch', sentence: `${sayParts(e, group)} stretched by ${sayShift(e, dx, dy)}`, facets: group });
    open.take(group);
  }
  return [...out, ...scalings(open)];
}

const round: ReadonlySet<string> = new Set(['circle', 'point']);

/** Round things show no turn: they belong to whatever turned or scaled their middles where they are now. */
function withRound(e: Evidence, groups: readonly Facet[][]): Facet[][] {
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
function scalings(open: Open): Found[] {
  const { evidence: e } = open;
  const facets = open.facets(
    (_, w, k) =>
      (w?.aspect === 'geometry' || (w?.aspect === 'placement' && w.property === undefined)) &&
      e.details[k]?.motion !== undefined &&
      isScaling(e.details[k].motion),
  );
  const inPlace = (m: Motion): boolean => Math.hypot(m.dx, m.dy) <= 2 * e.tolerance;
  const out: Found[] = [];
  const still = facets.filter(([k]) => inPlace(e.details[k]?.motion as Motion));
  const going = facets.filter(([k]) => !inPlace(e.details[k]?.motion as Motion));
  for (const group of [
    ...grouped(still, ([k]) => (e.details[k]?.motion as Motion).scale.toFixed(4)).map(([, g]) => g),
    ...withRound(
      e,
      merged(
        e,
        grouped(going, ([k]) => motionKey(e, e.details[k]?.motion as Motion)),
      ),
    ),
  ]) {
    const m = e.details[(group[0] as Facet)[0]]?.motion as Motion;
    const count = new Set(group.map(([k]) => k)).size;
    if (count < 2) continue;
    const centre = fixedPoint(m);
    out.push({
      kind: 'scale',
      sentence: `${who(e, group)} scaled by ${sayNumber(m.scale)}${inPlace(m) ? ', each where it stands' : centre ? ` about ${sayPoint(e, ...centre)}` : ''}`,
      facets: group,
    });
    open.take(group);
  }
  return out;
}

const who = (e: Evidence, group: readonly Facet[]): string => {
  const count = new Set(group.map(([k]) => k)).size;
  const kind = kindOf(e, group);
  return count === 1 ? sayParts(e, group) : plural(count, kind, pluralOf(kind));
};

function how(e: Evidence, m: Motion, group: readonly Facet[]): string {
  const together = new Set(group.map(([k]) => k)).size > 1 ? ' together' : '';
  const up = e.b.yUp ? -1 : 1;
  if (m.mirrored) return `mirrored${together}`;
  if (Math.abs(m.turn) < 0.01) return `moved${together} by ${sayShift(e, m.dx, m.dy)}`;
  const centre = fixedPoint(m);
  return `turned${together} by ${sayNumber(Math.round(up * m.turn * 1000) / 1000)}°${centre ? ` about ${sayPoint(e, ...centre)}` : ''}`;
}

/** The point that a turn or a scaling leaves where it is: β / (1 − α). */
function fixedPoint({ re, im, x, y, mirrored }: Motion): readonly [number, number] | undefined {
  const ar = 1 - re;
  const ai = -im;
  const norm = ar * ar + ai * ai;
  return mirrored || norm < 1e-12 ? undefined : [(x * ar + y * ai) / norm, (y * ar - x * ai) / norm];
}

const shiftKey = (e: Evidence, [dx, dy]: readonly [number, number]): string =>
  `${Math.round(dx / (8 * e.tolerance))} ${Math.round(dy / (8 * e.tolerance))}`;

const near = (e: Evidence, stretch: readonly [number, number] | undefined, m: Motion): boolean =>
  stretch !== undefined &&
  Math.abs(stretch[0] - m.dx) <= 8 * e.tolerance &&
  Math.abs(stretch[1] - m.dy) <= 8 * e.tolerance;

/** Equal for equal motions of the page. Shifts are compared as such; turns by angle and by where they leave the middle of the page. */
function motionKey(e: Evidence, m: Motion): string {
  const turned = Math.abs(m.turn) >= 0.01 || m.mirrored || isScaling(m);
  if (!turned) return `shift ${shiftKey(e, [m.dx, m.dy])}`;
  const box = e.b.pages[0]?.box ?? [0, 0, 0, 0];
  const cx = (box[0] + box[2]) / 2;
  const cy = ((box[1] + box[3]) / 2) * (m.mirrored ? -1 : 1);
  const px = m.re * cx - m.im * cy + m.x;
  const py = m.im * cx + m.re * cy + m.y;
  const grain = Math.max(box[2] - box[0], box[3] - box[1]) * 2e-4 + 64 * e.tolerance;
  return `turn ${m.mirrored ? 'mirrored' : ''} ${m.turn.toFixed(1)} ${m.scale.toFixed(4)} ${Math.round(px / grain)} ${Math.round(py / grain)}`;
}

/** Groups whose keys differ only by rounding are one. */
function merged(e: Evidence, groups: readonly (readonly [string, Facet[]])[]): Facet[][] {
  const out: { m: Motion; facets: Facet[] }[] = [];
  for (const [, facets] of groups) {
    const m = e.details[(facets[0] as Facet)[0]]?.motion as Motion;
    const twin = out.length < 200 ? out.find((o) => same(e, o.m, m)) : undefined;
    if (twin) twin.facets.push(...facets);
    else out.push({ m, facets });
  }
  return out.map((o) => o.facets);
}

function same(e: Evidence, p: Motion, q: Motion): boolean {
  if (p.mirrored !== q.mirrored || Math.abs(p.scale - q.scale) > 1e-4) return false;
  const turned = Math.abs(p.turn) >= 0.01 || p.mirrored || isScaling(p);
  if (!turned)
    return (
      Math.abs(q.turn) < 0.01 && Math.abs(p.dx - q.dx) <= 6 * e.tolerance && Math.abs(p.dy - q.dy) <= 6 * e.tolerance
    );
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
