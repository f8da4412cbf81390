/** Edges of a surface that are drawn: its border, its creases, and where it turns away from whoever looks. */
import type { Mesh, Point3 } from '../../../mesh/mesh.ts';
import { cross, dot, minus, unit } from '../../../mesh/vector.ts';

/** Neighbouring faces whose directions differ by more have an edge between them, as a cosine. */
const CREASE = 0.93;
/** Faces that look so little towards or away from one are seen from their edge. */
const EDGE_ON = 1e-6;

/** Pairs of points. */
export function drawnEdges({ points, triangles }: Mesh, towards: Point3): Uint32Array {
  const count = triangles.length / 3;
  const point = (k: number): Point3 => [
    points[3 * k] as number,
    points[3 * k + 1] as number,
    points[3 * k + 2] as number,
  ];
  const normals: Point3[] = [];
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => point(triangles[3 * t + k] as number)) as [Point3, Point3, Point3];
    normals.push(unit(cross(minus(b, a), minus(c, a))));
  }
  const faces = new Map<number, number[]>();
  const size = points.length / 3;
  for (let corner = 0; corner < triangles.length; corner++) {
    const t = Math.floor(corner / 3);
    const p = triangles[corner] as number;
    const q = triangles[3 * t + ((corner + 1) % 3)] as number;
    const key = Math.min(p, q) * size + Math.max(p, q);
    const known = faces.get(key);
    if (known) known.push(t);
    else faces.set(key, [t]);
  }
  const out: number[] = [];
  for (const [key, at] of faces) if (isDrawn(at, normals, towards)) out.push(Math.floor(key / size), key % size);
  return Uint32Array.from(out);
}

function isDrawn(at: readonly number[], normals: readonly Point3[], towards: Point3): boolean {
  const [first, second] = at.map((t) => normals[t] as Point3);
  if (at.length !== 2 || !first || !second) return true;
  if (dot(first, second) < CREASE) return true;
  const [p, q] = [dot(first, towards), dot(second, towards)];
  return (p > EDGE_ON && q < -EDGE_ON) || (p < -EDGE_ON && q > EDGE_ON);
}
