/** How far one surface lies from another: signed, over its area. What both have needs no looking. */
import { boxOfPoints, diagonal3, type Mesh } from './mesh.ts';
import { nearestOn } from './nearest.ts';
import { triangleKeys } from './print.ts';

export interface Deviation {
  /** Over the area, of distances without their sign. */
  readonly mean: number;
  readonly rms: number;
  /** 95 of 100 parts of the area lie no further off. */
  readonly p95: number;
  readonly max: number;
  /** Share of the area that is within the tolerance. */
  readonly within: number;
}

/** Where and how far: one of many places on a surface that stand for pieces of its area. */
interface Sample {
  readonly distance: number;
  readonly area: number;
}

const ORIGIN = [0, 0, 0] as const;
/** Share of the size of a surface within which its corners are the same. */
const EXACT = 1e-9;
/** Places that are looked at for the area, about so many; corners are looked at beside them. */
const SAMPLES = 24_000;
const FEW_SAMPLES = 300;
const MOST_OF_ONE = 600;

/** Both ways: of A from B and of B from A, as one. */
export function deviationBetween(a: Mesh, b: Mesh, tolerance: number): Deviation {
  const [onlyA, onlyB] = [otherTriangles(a, b), otherTriangles(b, a)];
  const samples = [...samplesOf(a, onlyA, b), ...samplesOf(b, onlyB, a)];
  return summed(samples, areaOf(a) + areaOf(b), tolerance);
}

/**
 * For each corner of each triangle of `b` its signed distance from `a`, positive where material was added. What bends
 * away only between its corners, as the wall of a hole, has the distance of its middle.
 */
export function distancesOf(b: Mesh, a: Mesh): Float32Array {
  const { points, triangles } = b;
  const distances = new Float32Array(triangles.length);
  const others = otherTriangles(b, a);
  if (others.length === 0) return distances;
  const nearest = nearestOn(a);
  const known = new Float32Array(points.length / 3).fill(NaN);
  const ofPoint = (point: number): number => {
    const at = 3 * point;
    if (Number.isNaN(known[point]))
      known[point] = nearest.signed(points[at] as number, points[at + 1] as number, points[at + 2] as number) ?? 0;
    return known[point] as number;
  };
  for (const triangle of others) {
    const middle = nearest.signed(...pointWithin(b, triangle, 0, 1)) ?? 0;
    for (let k = 0; k < 3; k++) {
      const own = ofPoint(triangles[3 * triangle + k] as number);
      distances[3 * triangle + k] = Math.abs(own) > Math.abs(middle) ? own : middle;
    }
  }
  return distances;
}

/** How far the furthest place of a body lies from a surface, about. */
export function furthestFrom(surface: Mesh, body: Mesh): number {
  const all = Array.from({ length: body.triangles.length / 3 }, (_, t) => t);
  let most = 0;
  for (const { distance } of samplesOf(body, all, surface, { about: FEW_SAMPLES }))
    most = Math.max(most, Math.abs(distance));
  return most;
}

/** Whether each surface lies within `reach` of the other all over. */
export function isSameSurface(a: Mesh, b: Mesh, reach: number): boolean {
  const [boxA, boxB] = [boxOfPoints(a.points), boxOfPoints(b.points)];
  if (!boxA || !boxB || boxA.some((value, k) => Math.abs(value - (boxB[k] as number)) > reach)) return false;
  return liesOn(a, b, reach) && liesOn(b, a, reach);
}

/** Whether a surface lies within `reach` of another all over; the first place that does not ends the search. */
function liesOn(a: Mesh, b: Mesh, reach: number): boolean {
  for (const { distance } of samplesOf(a, otherTriangles(a, b), b, { reach }))
    if (Math.abs(distance) > reach) return false;
  return true;
}

/** Numbers of the triangles of `a` that are not in `b`, corner for corner. */
function otherTriangles(a: Mesh, b: Mesh): number[] {
  const step = reachFor(b, EXACT) || EXACT;
  const known = new Set(triangleKeys(b, ORIGIN, step));
  const others: number[] = [];
  triangleKeys(a, ORIGIN, step).forEach((key, t) => {
    if (!known.has(key)) others.push(t);
  });
  return others;
}

/** What has nothing within `reach` is infinitely far away. */
function* samplesOf(
  mesh: Mesh,
  triangles: readonly number[],
  other: Mesh,
  { about = SAMPLES, reach = Infinity }: { readonly about?: number; readonly reach?: number } = {},
): Generator<Sample> {
  if (triangles.length === 0) return;
  const nearest = nearestOn(other);
  const beyond = Number.isFinite(reach) ? Infinity : 0;
  const area = triangles.reduce((sum, t) => sum + triangleArea(mesh, t), 0);
  const each = area / about;
  const seen = new Set<number>();
  for (const t of triangles) {
    const own = triangleArea(mesh, t);
    const count = Math.min(MOST_OF_ONE, Math.max(1, Math.round(own / each)));
    for (let k = 0; k < count; k++) {
      const [x, y, z] = pointWithin(mesh, t, k, count);
      yield { distance: nearest.signed(x, y, z, reach) ?? beyond, area: own / count };
    }
    for (let k = 0; k < 3; k++) {
      const point = mesh.triangles[3 * t + k] as number;
      if (seen.has(point)) continue;
      seen.add(point);
      const at = 3 * point;
      const [x, y, z] = [mesh.points[at] as number, mesh.points[at + 1] as number, mesh.points[at + 2] as number];
      // A corner has no area; the largest distance may be there.
      yield { distance: nearest.signed(x, y, z, reach) ?? beyond, area: 0 };
    }
  }
}

/** The golden ratio and its square root spread points evenly over a triangle, always the same ones. */
function pointWithin(mesh: Mesh, t: number, k: number, count: number): [number, number, number] {
  let u = (k + 0.5) / count;
  let v = ((k + 1) * 0.6180339887498949) % 1;
  if (u + v > 1) [u, v] = [1 - u, 1 - v];
  if (count === 1) [u, v] = [1 / 3, 1 / 3];
  const corner = (n: number, axis: number): number =>
    mesh.points[3 * (mesh.triangles[3 * t + n] as number) + axis] as number;
  const along = (axis: number): number => {
    const origin = corner(0, axis);
    return origin + u * (corner(1, axis) - origin) + v * (corner(2, axis) - origin);
  };
  return [along(0), along(1), along(2)];
}

function triangleArea({ points, triangles }: Mesh, t: number): number {
  const [a, b, c] = [0, 1, 2].map((k) => 3 * (triangles[3 * t + k] as number)) as [number, number, number];
  const side = (p: number, axis: number): number => (points[p + axis] as number) - (points[a + axis] as number);
  const [ux, uy, uz] = [side(b, 0), side(b, 1), side(b, 2)];
  const [vx, vy, vz] = [side(c, 0), side(c, 1), side(c, 2)];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
}

const areaOf = (mesh: Mesh): number => {
  let sum = 0;
  for (let t = 0; t < mesh.triangles.length / 3; t++) sum += triangleArea(mesh, t);
  return sum;
};

function summed(samples: readonly Sample[], area: number, tolerance: number): Deviation {
  let [sum, squares, max, beyond] = [0, 0, 0, 0];
  for (const { distance, area: own } of samples) {
    const far = Math.abs(distance);
    sum += own * far;
    squares += own * far * far;
    max = Math.max(max, far);
    if (far > tolerance) beyond += own;
  }
  const all = area || 1;
  return { mean: sum / all, rms: Math.sqrt(squares / all), p95: share95(samples, all), max, within: 1 - beyond / all };
}

/** The distance that 5 of 100 parts of the area lie beyond. */
function share95(samples: readonly Sample[], area: number): number {
  let left = 0.05 * area;
  for (const { distance, area: own } of [...samples].sort((p, q) => Math.abs(q.distance) - Math.abs(p.distance))) {
    left -= own;
    if (left < 0) return Math.abs(distance);
  }
  return 0;
}

/** The distance within which two surfaces count as one: a share of their size. */
export const reachFor = (mesh: Mesh, share = 1e-5): number => {
  const box = boxOfPoints(mesh.points);
  return box ? diagonal3(box) * share : 0;
};
