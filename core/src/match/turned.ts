/**
 * Parts that were turned, mirrored or scaled together: outlines that are alike whatever their direction and size vote
 * for a motion; what a motion with several votes brings onto a part of B is that part.
 */
import Flatbush from 'flatbush';
import { centreX, centreY, height, width } from '../geometry/box.ts';
import type { Design, Part } from '../model/design.ts';
import { motionBetween, motionOfTransforms, type Motion } from './motion.ts';
import { sameGeometry } from './same-geometry.ts';
import { familyOf, hashWords, isPlaced, wordsOf, flatAnchorOf } from './traits.ts';

/** Votes that make a motion. */
const ENOUGH = 3;
/** Motions that are tried, most voted first. */
const TRIED = 6;
/** Leftover parts beyond which this is not tried. */
const MOST = 60_000;
/** Equal outlines on one side beyond which they do not vote. */
const COMMON = 6;

export function pairTurned(
  a: Design,
  leftA: readonly number[],
  b: Design,
  leftB: readonly number[],
  tolerance: number,
): [number, number][] {
  if (leftA.length < ENOUGH || leftB.length < ENOUGH || leftA.length + leftB.length > MOST) return [];
  const motions = votes(a, leftA, b, leftB, tolerance);
  if (!motions.length) return [];
  const boxed = leftB.filter((j) => b.parts[j]?.box);
  const tree = new Flatbush(Math.max(1, boxed.length));
  for (const j of boxed) {
    const [x0, y0, x1, y1] = b.parts[j]?.box as readonly [number, number, number, number];
    tree.add((x0 + x1) / 2, (y0 + y1) / 2, (x0 + x1) / 2, (y0 + y1) / 2);
  }
  if (!boxed.length) return [];
  tree.finish();
  const takenA = new Set<number>();
  const takenB = new Set<number>();
  const out: [number, number][] = [];
  for (const m of motions) {
    for (const i of leftA) {
      const part = a.parts[i] as Part;
      if (takenA.has(i) || !part.box) continue;
      const reach = tolerance * 16 + 1e-5 * Math.hypot(m.x, m.y);
      const slack =
        reach +
        (part.lettering || isPlaced(part) ? Math.max(width(part.box), height(part.box)) * Math.max(1, m.scale) : 0) +
        spread(part);
      const y = m.mirrored ? -centreY(part.box) : centreY(part.box);
      const cx = m.re * centreX(part.box) - m.im * y + m.x;
      const cy = m.im * centreX(part.box) + m.re * y + m.y;
      for (const k of tree.search(cx - slack, cy - slack, cx + slack, cy + slack)) {
        const j = boxed[k] as number;
        if (takenB.has(j) || !lands(a, part, b, b.parts[j] as Part, m, reach)) continue;
        takenA.add(i);
        takenB.add(j);
        out.push([i, j]);
        break;
      }
    }
  }
  return out;
}

/** The middle of a box goes astray when a crooked outline turns. */
const spread = (part: Part): number => (part.box && part.subpaths ? (width(part.box) + height(part.box)) / 2 : 0);

function votes(a: Design, leftA: readonly number[], b: Design, leftB: readonly number[], tolerance: number): Motion[] {
  const buckets = new Map<number, { a: number[]; b: number[] }>();
  const put = (design: Design, side: 'a' | 'b', i: number): void => {
    const key = signature(design, design.parts[i] as Part);
    if (key === undefined) return;
    const bucket = buckets.get(key) ?? { a: [], b: [] };
    bucket[side].push(i);
    buckets.set(key, bucket);
  };
  for (const i of leftA) put(a, 'a', i);
  for (const j of leftB) put(b, 'b', j);
  const box = b.pages[0]?.box ?? [0, 0, 1, 1];
  const grain = Math.max(width(box), height(box)) * 1e-4 + 64 * tolerance;
  const cx = centreX(box);
  const cy = centreY(box);
  const counted = new Map<string, { m: Motion; parts: Set<number> }>();
  for (const bucket of buckets.values()) {
    if (!bucket.a.length || !bucket.b.length || bucket.a.length > COMMON || bucket.b.length > COMMON) continue;
    for (const i of bucket.a) {
      for (const j of bucket.b) {
        const m = motionBetween(a, a.parts[i] as Part, b, b.parts[j] as Part, tolerance * 8);
        if (!m || (Math.abs(m.turn) < 0.01 && !m.mirrored && Math.abs(m.scale - 1) < 1e-4)) continue;
        const y = m.mirrored ? -cy : cy;
        const key = `${m.mirrored} ${m.turn.toFixed(1)} ${m.scale.toFixed(3)} ${Math.round((m.re * cx - m.im * y + m.x) / grain / 4)} ${Math.round((m.im * cx + m.re * y + m.y) / grain / 4)}`;
        const entry = counted.get(key) ?? { m, parts: new Set<number>() };
        entry.parts.add(i);
        counted.set(key, entry);
      }
    }
  }
  return [...counted.values()]
    .filter((c) => c.parts.size >= ENOUGH)
    .sort((p, q) => q.parts.size - p.parts.size)
    .slice(0, TRIED)
    .map((c) => c.m);
}

/** Equal for outlines of three points and more that are alike up to place, direction and size. */
function signature(design: Design, part: Part): number | undefined {
  const { points, starts, closed } = design.geometry;
  const begin = starts[part.firstSubpath] as number;
  const end = starts[part.firstSubpath + part.subpaths] as number;
  if (part.subpaths !== 1 || end - begin < 3 || end - begin > 200 || part.kind === 'circle') return undefined;
  const lengths: number[] = [];
  for (let p = begin; p < end; p++) {
    const q = p + 1 < end ? p + 1 : begin;
    if (q === begin && !closed[part.firstSubpath]) continue;
    lengths.push(
      Math.hypot(
        (points[2 * q] as number) - (points[2 * p] as number),
        (points[2 * q + 1] as number) - (points[2 * p + 1] as number),
      ),
    );
  }
  const total = lengths.reduce((sum, l) => sum + l, 0);
  return total > 0
    ? hashWords(`${familyOf(part)} ${lengths.map((l) => Math.round((l / total) * 500)).join(' ')}`)
    : undefined;
}

/** True where the motion brings `part` onto `other`. */
function lands(a: Design, part: Part, b: Design, other: Part, m: Motion, reach: number): boolean {
  if (!other.box || familyOf(part) !== familyOf(other) || wordsOf(part) !== wordsOf(other)) return false;
  const at = (x: number, y: number): readonly [number, number] => {
    const v = m.mirrored ? -y : y;
    return [m.re * x - m.im * v + m.x, m.im * x + m.re * v + m.y];
  };
  if (part.lettering || isPlaced(part)) {
    const from = flatAnchorOf(part);
    const to = flatAnchorOf(other);
    const how = motionOfTransforms(part.transform, other.transform);
    if (
      !from ||
      !to ||
      !how ||
      Math.abs(how.turn - m.turn) > 0.1 ||
      (isPlaced(part) && a.definitions[part.definition ?? -1]?.key !== b.definitions[other.definition ?? -1]?.key)
    )
      return false;
    const [x, y] = at(...from);
    return Math.hypot(x - to[0], y - to[1]) <= reach;
  }
  if (part.kind === 'circle' && other.kind === 'circle') {
    const [x, y] = at(centreX(part.box as NonNullable<Part['box']>), centreY(part.box as NonNullable<Part['box']>));
    return (
      Math.abs(x - centreX(other.box)) <= reach &&
      Math.abs(y - centreY(other.box)) <= reach &&
      Math.abs(width(part.box as NonNullable<Part['box']>) * m.scale - width(other.box)) <= 2 * reach
    );
  }
  const { starts, points } = a.geometry;
  const begin = starts[part.firstSubpath] as number;
  const end = starts[part.firstSubpath + part.subpaths] as number;
  if (end - begin > 2000 || part.subpaths === 0) return false;
  const moved = new Float64Array(2 * (end - begin));
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let p = begin; p < end; p++) {
    const [x, y] = at(points[2 * p] as number, points[2 * p + 1] as number);
    moved[2 * (p - begin)] = x;
    moved[2 * (p - begin) + 1] = y;
    box[0] = Math.min(box[0], x);
    box[1] = Math.min(box[1], y);
    box[2] = Math.max(box[2], x);
    box[3] = Math.max(box[3], y);
  }
  if (box.some((v, k) => Math.abs(v - ((other.box as readonly number[])[k] as number)) > reach)) return false;
  const own = {
    points: moved,
    starts: starts.slice(part.firstSubpath, part.firstSubpath + part.subpaths + 1).map((s) => s - begin),
    closed: a.geometry.closed.slice(part.firstSubpath, part.firstSubpath + part.subpaths),
  };
  return sameGeometry({ ...a, geometry: own }, { ...part, firstSubpath: 0, box }, b, other, reach);
}
