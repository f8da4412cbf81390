/** Placements in space: 4 × 4 matrices, column by column as glTF 2.0 has them; the last row is 0 0 0 1. */
import type { Mesh, Point3 } from './mesh.ts';

export type Placing = readonly number[];

export const asItStands: Placing = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

const at = (m: Placing, k: number): number => m[k] as number;

/** First `inner`, then `outer`. */
export function placedWithin(outer: Placing, inner: Placing): Placing {
  const out = new Array<number>(16).fill(0);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++)
        out[4 * column + row] = (out[4 * column + row] as number) + at(outer, 4 * k + row) * at(inner, 4 * column + k);
  return out;
}

export const placePoint = (m: Placing, [x, y, z]: Point3): Point3 => [
  at(m, 0) * x + at(m, 4) * y + at(m, 8) * z + at(m, 12),
  at(m, 1) * x + at(m, 5) * y + at(m, 9) * z + at(m, 13),
  at(m, 2) * x + at(m, 6) * y + at(m, 10) * z + at(m, 14),
];

/** Negative where it mirrors. */
export const determinant = (m: Placing): number =>
  at(m, 0) * (at(m, 5) * at(m, 10) - at(m, 9) * at(m, 6)) -
  at(m, 4) * (at(m, 1) * at(m, 10) - at(m, 9) * at(m, 2)) +
  at(m, 8) * (at(m, 1) * at(m, 6) - at(m, 5) * at(m, 2));

/** Undefined where it flattens. */
export function undone(m: Placing): Placing | undefined {
  const det = determinant(m);
  if (Math.abs(det) < 1e-300) return undefined;
  const cell = (a: number, b: number, c: number, d: number): number =>
    (at(m, a) * at(m, d) - at(m, b) * at(m, c)) / det;
  const turn = [
    cell(5, 9, 6, 10),
    cell(9, 1, 10, 2),
    cell(1, 5, 2, 6),
    cell(8, 4, 10, 6),
    cell(0, 8, 2, 10),
    cell(4, 0, 6, 2),
    cell(4, 8, 5, 9),
    cell(8, 0, 9, 1),
    cell(0, 4, 1, 5),
  ] as const;
  const [x, y, z] = [at(m, 12), at(m, 13), at(m, 14)];
  const back = (row: 0 | 1 | 2): number =>
    -(turn[row] * x + (turn[row + 3] as number) * y + (turn[row + 6] as number) * z);
  return [...turn.slice(0, 3), 0, ...turn.slice(3, 6), 0, ...turn.slice(6, 9), 0, back(0), back(1), back(2), 1];
}

/** The surface where it is placed; triangles are turned over where the placement mirrors. */
export function placedMesh({ points, triangles }: Mesh, m: Placing): Mesh {
  if (m === asItStands) return { points, triangles };
  const placed = new Float64Array(points.length);
  for (let p = 0; p < points.length; p += 3) {
    const [x, y, z] = placePoint(m, [points[p] as number, points[p + 1] as number, points[p + 2] as number]);
    placed[p] = x;
    placed[p + 1] = y;
    placed[p + 2] = z;
  }
  if (determinant(m) >= 0) return { points: placed, triangles };
  const turned = triangles.slice();
  for (let t = 0; t < turned.length; t += 3)
    [turned[t + 1], turned[t + 2]] = [turned[t + 2] as number, turned[t + 1] as number];
  return { points: placed, triangles: turned };
}
