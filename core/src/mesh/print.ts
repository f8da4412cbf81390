/** Numbers for triangles and surfaces: equal for equal ones, in whatever order they stand and wherever they begin. */
import { boxOfPoints, type Mesh, type Point3 } from './mesh.ts';

const mix = (h: number): number => {
  let k = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  k = Math.imul(k ^ (k >>> 13), 0xc2b2ae35);
  return k ^ (k >>> 16);
};

/** Two numbers of 32 bits as one of 53. */
const join = (a: number, b: number): number => (a >>> 0) * 2097152 + ((b >>> 0) >>> 11);

/**
 * A number for each triangle. `step` is the distance within which places count as the same; what falls apart by
 * rounding has another number. Places are told from `origin`.
 */
export function triangleKeys({ points, triangles }: Mesh, origin: Point3, step: number): Float64Array {
  const corners = new Int32Array(points.length / 3);
  const twins = new Int32Array(corners.length);
  for (let p = 0; p < corners.length; p++) {
    const x = Math.round(((points[3 * p] as number) - origin[0]) / step);
    const y = Math.round(((points[3 * p + 1] as number) - origin[1]) / step);
    const z = Math.round(((points[3 * p + 2] as number) - origin[2]) / step);
    corners[p] = mix(Math.imul(x | 0, 0x9e3779b1) ^ mix(Math.imul(y | 0, 0x85ebca77) ^ mix(z | 0)));
    twins[p] = mix(Math.imul(z | 0, 0xc2b2ae3d) ^ mix(Math.imul(x | 0, 0x27d4eb2f) ^ mix(y ^ 0x165667b1)));
  }
  const keys = new Float64Array(triangles.length / 3);
  for (let t = 0; t < keys.length; t++) {
    const [p, q, r] = [triangles[3 * t] as number, triangles[3 * t + 1] as number, triangles[3 * t + 2] as number];
    keys[t] = join(cycle(corners, p, q, r), cycle(twins, p, q, r));
  }
  return keys;
}

/** Turned on, a triangle stays the same; turned over, it does not. */
function cycle(hashes: Int32Array, p: number, q: number, r: number): number {
  const [a, b, c] = [hashes[p] as number, hashes[q] as number, hashes[r] as number];
  return mix((mix(a ^ Math.imul(b, 31)) + mix(b ^ Math.imul(c, 31)) + mix(c ^ Math.imul(a, 31))) | 0);
}

/** A number for a surface, wherever it stands: its triangles are told from the lowest corner of its box. */
export function printOf(mesh: Mesh, step: number): number {
  const box = boxOfPoints(mesh.points);
  if (!box) return 0;
  let a = mesh.triangles.length;
  let b = 0;
  for (const key of triangleKeys(mesh, [box[0], box[1], box[2]], step)) {
    const low = key | 0;
    const high = Math.floor(key / 4294967296) | 0;
    a = (a + mix(low ^ Math.imul(high, 31))) | 0;
    b = (b + mix(high ^ 0x5f356495 ^ Math.imul(low, 17))) | 0;
  }
  return join(a, b);
}
