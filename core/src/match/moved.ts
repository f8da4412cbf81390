/**
 * Pairs equal forms that stand elsewhere, so that parts which moved together stay together and repeated parts do not
 * cross.
 */
import type { Point3 } from '../mesh/mesh.ts';
import { assign } from './assign.ts';

export type Anchor = Point3 | undefined;

export interface Bucket {
  readonly a: readonly number[];
  readonly b: readonly number[];
}

/** Above this many possible pairs in a bucket, what no common shift explains is paired in reading order. */
const DENSE = 40_000;
/** Common shifts that are tried, most frequent first. */
const SHIFTS = 12;

/** `step` is the distance in design units within which two places or shifts count as equal. */
export function pairMoved(
  buckets: readonly Bucket[],
  anchorA: (i: number) => Anchor,
  anchorB: (j: number) => Anchor,
  step: number,
  known: readonly Point3[],
): [number, number][] {
  const pairs: [number, number][] = [];
  const shifts = new ShiftCount(step);
  for (const shift of known) shifts.add(shift);
  const several: Bucket[] = [];
  for (const bucket of buckets) {
    const [i] = bucket.a;
    const [j] = bucket.b;
    if (bucket.a.length > 1 || bucket.b.length > 1 || i === undefined || j === undefined) {
      several.push(bucket);
      continue;
    }
    pairs.push([i, j]);
    const from = anchorA(i);
    const to = anchorB(j);
    if (from && to) shifts.add(shiftBetween(from, to));
  }
  for (const bucket of several) {
    if (bucket.a.length * bucket.b.length > DENSE) continue;
    // Every part votes once for each distinct shift that would land it on an equal part.
    for (const i of bucket.a) {
      const from = anchorA(i);
      for (const j of bucket.b) {
        const to = anchorB(j);
        if (from && to) shifts.add(shiftBetween(from, to), 1 / Math.max(bucket.a.length, bucket.b.length));
      }
    }
  }
  const common = shifts.top(SHIFTS);
  for (const bucket of several) pairs.push(...pairBucket(bucket, anchorA, anchorB, step, common));
  return pairs;
}

function pairBucket(
  bucket: Bucket,
  anchorA: (i: number) => Anchor,
  anchorB: (j: number) => Anchor,
  step: number,
  shifts: readonly Point3[],
): [number, number][] {
  const pairs: [number, number][] = [];
  const freeA = new Set(bucket.a);
  const freeB = new Set(bucket.b);
  for (const shift of shifts) {
    const at = new Map<string, number>();
    for (const j of freeB) {
      const to = anchorB(j);
      if (to) at.set(cell(to, step), j);
    }
    for (const i of freeA) {
      const from = anchorA(i);
      const j = from && aroundCell(at, [from[0] + shift[0], from[1] + shift[1], from[2] + shift[2]], step);
      if (j === undefined || !freeB.has(j)) continue;
      pairs.push([i, j]);
      freeA.delete(i);
      freeB.delete(j);
    }
  }
  if (!freeA.size || !freeB.size) return pairs;
  if (freeA.size * freeB.size > DENSE) {
    const order = (ids: Set<number>, anchor: (i: number) => Anchor): number[] =>
      [...ids].sort(
        (p, q) => (anchor(p)?.[1] ?? 0) - (anchor(q)?.[1] ?? 0) || (anchor(p)?.[0] ?? 0) - (anchor(q)?.[0] ?? 0),
      );
    const x = order(freeA, anchorA);
    const y = order(freeB, anchorB);
    for (let k = 0; k < Math.min(x.length, y.length); k++) pairs.push([x[k] as number, y[k] as number]);
    return pairs;
  }
  const candidates = [...freeA].flatMap((i) =>
    [...freeB].map((j) => {
      const from = anchorA(i);
      const to = anchorB(j);
      return { a: i, b: j, cost: from && to ? Math.hypot(...shiftBetween(from, to)) : 0 };
    }),
  );
  for (const c of assign(candidates)) pairs.push([c.a, c.b]);
  return pairs;
}

const shiftBetween = (from: Point3, to: Point3): Point3 => [to[0] - from[0], to[1] - from[1], to[2] - from[2]];

const cell = ([x, y, z]: Point3, step: number): string =>
  `${Math.round(x / step)},${Math.round(y / step)},${Math.round(z / step)}`;

const BESIDE = [-1, 0, 1] as const;

function aroundCell(at: ReadonlyMap<string, number>, [x, y, z]: Point3, step: number): number | undefined {
  // What is flat has no neighbours above and below.
  for (const dz of z === 0 ? [0] : BESIDE)
    for (const dx of BESIDE)
      for (const dy of BESIDE) {
        const hit = at.get(cell([x + dx * step, y + dy * step, z + dz * step], step));
        if (hit !== undefined) return hit;
      }
  return undefined;
}

/** Counts shifts, near-equal ones together. */
class ShiftCount {
  private readonly counts = new Map<string, { shift: Point3; weight: number }>();
  private readonly step: number;

  constructor(step: number) {
    this.step = step;
  }

  add(shift: Point3, weight = 1): void {
    const key = cell(shift, this.step * 2);
    const entry = this.counts.get(key);
    if (entry) entry.weight += weight;
    else this.counts.set(key, { shift, weight });
  }

  /** The most frequent shifts; of equally frequent ones the shortest. */
  top(n: number): Point3[] {
    return [...this.counts.values()]
      .sort((p, q) => q.weight - p.weight || Math.hypot(...p.shift) - Math.hypot(...q.shift))
      .slice(0, n)
      .map(({ shift }) => shift);
  }
}
