/** What a plane cuts of a surface. */
import type { Point3 } from './mesh.ts';

/** Points p with normal · p = at. */
export interface Plane {
  /** Of length 1. */
  readonly normal: Point3;
  readonly at: number;
}

interface Surface {
  readonly points: ArrayLike<number>;
  readonly triangles: ArrayLike<number>;
}

/** The lines in which triangles meet a plane: x, y and z of both ends of each. A triangle that lies in it gives none. */
export function slicesOf({ points, triangles }: Surface, { normal, at }: Plane): Float64Array {
  const [nx, ny, nz] = normal;
  const height = (point: number): number =>
    nx * (points[3 * point] as number) +
    ny * (points[3 * point + 1] as number) +
    nz * (points[3 * point + 2] as number) -
    at;
  const out: number[] = [];
  const cross = (p: number, q: number, hp: number, hq: number): void => {
    const share = hp / (hp - hq);
    for (let axis = 0; axis < 3; axis++) {
      const from = points[3 * p + axis] as number;
      out.push(from + share * ((points[3 * q + axis] as number) - from));
    }
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t] as number, triangles[t + 1] as number, triangles[t + 2] as number];
    const [ha, hb, hc] = [height(a), height(b), height(c)];
    // What lies in the plane counts as above it, so that neighbours are cut alike.
    const [above, aboveB, aboveC] = [ha >= 0, hb >= 0, hc >= 0];
    if (above === aboveB && aboveB === aboveC) continue;
    if (above !== aboveB) cross(a, b, ha, hb);
    if (aboveB !== aboveC) cross(b, c, hb, hc);
    if (aboveC !== above) cross(c, a, hc, ha);
  }
  return Float64Array.from(out);
}
