import type { Mesh } from './mesh.ts';

/** A surface of some triangles of a larger one, with only the points that these use, numbered anew. */
export function withOwnPoints(points: Float64Array, triangles: ArrayLike<number>): Mesh {
  const own = new Map<number, number>();
  const renumbered = new Uint32Array(triangles.length);
  for (let k = 0; k < triangles.length; k++) {
    const point = triangles[k] as number;
    const known = own.get(point) ?? own.size;
    own.set(point, known);
    renumbered[k] = known;
  }
  const kept = new Float64Array(3 * own.size);
  for (const [point, k] of own) kept.set(points.subarray(3 * point, 3 * point + 3), 3 * k);
  return { points: kept, triangles: renumbered };
}
