/** Surfaces made of triangles, in flat arrays. */

export interface Mesh {
  /** x, y and z of each point. */
  readonly points: Float64Array;
  /** Three points a triangle, counter-clockwise as seen from outside. */
  readonly triangles: Uint32Array;
}

/** Lowest and highest x, y and z: `[x0, y0, z0, x1, y1, z1]`. */
export type Box3 = readonly [x0: number, y0: number, z0: number, x1: number, y1: number, z1: number];

export type Point3 = readonly [x: number, y: number, z: number];

/** Undefined where there is no point. */
export function boxOfPoints(points: Float64Array): Box3 | undefined {
  if (points.length < 3) return undefined;
  let [x0, y0, z0] = [Infinity, Infinity, Infinity];
  let [x1, y1, z1] = [-Infinity, -Infinity, -Infinity];
  for (let p = 0; p < points.length; p += 3) {
    const x = points[p] as number;
    const y = points[p + 1] as number;
    const z = points[p + 2] as number;
    if (x < x0) x0 = x;
    if (y < y0) y0 = y;
    if (z < z0) z0 = z;
    if (x > x1) x1 = x;
    if (y > y1) y1 = y;
    if (z > z1) z1 = z;
  }
  return [x0, y0, z0, x1, y1, z1];
}

export const diagonal3 = ([x0, y0, z0, x1, y1, z1]: Box3): number => Math.hypot(x1 - x0, y1 - y0, z1 - z0);

export const unite3 = (a: Box3 | undefined, b: Box3): Box3 =>
  a
    ? [
        Math.min(a[0], b[0]),
        Math.min(a[1], b[1]),
        Math.min(a[2], b[2]),
        Math.max(a[3], b[3]),
        Math.max(a[4], b[4]),
        Math.max(a[5], b[5]),
      ]
    : b;

/** Several surfaces as one. */
export function unitedMesh(meshes: readonly Mesh[]): Mesh {
  const points = new Float64Array(meshes.reduce((n, mesh) => n + mesh.points.length, 0));
  const triangles = new Uint32Array(meshes.reduce((n, mesh) => n + mesh.triangles.length, 0));
  let point = 0;
  let triangle = 0;
  for (const mesh of meshes) {
    points.set(mesh.points, 3 * point);
    for (let k = 0; k < mesh.triangles.length; k++) triangles[triangle + k] = (mesh.triangles[k] as number) + point;
    point += mesh.points.length / 3;
    triangle += mesh.triangles.length;
  }
  return { points, triangles };
}
