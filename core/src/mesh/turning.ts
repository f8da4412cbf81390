/** Motions in space: how one surface came to be where another stands, and what a placing does. */
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { boxOfPoints, diagonal3, type Mesh, type Point3 } from './mesh.ts';
import { determinant, placePoint, type Placing } from './placing.ts';

/** What a motion does, for saying it. */
export interface Turning {
  /** Degrees, 0 to 180, counter-clockwise about the axis. */
  readonly turn: number;
  /** Of length 1; up where nothing is turned. */
  readonly axis: Point3;
  readonly scale: number;
  readonly mirrored: boolean;
}

/** Undefined where the placing is no similarity: it stretches more in one direction than in another. */
export function turningOf(m: Placing): Turning | undefined {
  const column = (k: 0 | 4 | 8): Point3 => [m[k] as number, m[k + 1] as number, m[k + 2] as number];
  const axes = [column(0), column(4), column(8)] as const;
  const lengths = axes.map((axis) => Math.hypot(...axis));
  const scale = Math.cbrt(Math.abs(determinant(m)));
  if (scale === 0 || lengths.some((length) => Math.abs(length / scale - 1) > 1e-5)) return undefined;
  const mirrored = determinant(m) < 0;
  const sign = mirrored ? -1 : 1;
  const unit = ([x, y, z]: Point3): Point3 => [(sign * x) / scale, (sign * y) / scale, (sign * z) / scale];
  const [xx, yx, zx] = unit(axes[0]);
  const [xy, yy, zy] = unit(axes[1]);
  const [xz, yz, zz] = unit(axes[2]);
  const twist: Point3 = [zy - yz, xz - zx, yx - xy];
  const sine = Math.hypot(...twist) / 2;
  const angle = Math.atan2(sine, (xx + yy + zz - 1) / 2);
  const turn = (angle * 180) / Math.PI;
  if (sine > 1e-9)
    return { turn, axis: [twist[0] / 2 / sine, twist[1] / 2 / sine, twist[2] / 2 / sine], scale, mirrored };
  if (turn < 1) return { turn: 0, axis: [0, 0, 1], scale, mirrored };
  // Half a turn has no sense of direction: the axis is what stays.
  return { turn, axis: halfTurnAxis([xx, yy, zz], [(yz + zy) / 4, (xz + zx) / 4, (xy + yx) / 4]), scale, mirrored };
}

/** From the diagonal of a half turn, and the halves of the products of its axis: y·z, x·z, x·y. */
function halfTurnAxis(diagonal: Point3, [yz, xz, xy]: Point3): Point3 {
  const [x, y, z] = diagonal.map((value) => Math.sqrt(Math.max(0, (value + 1) / 2))) as unknown as Point3;
  if (x > 0.5) return [x, xy / x, xz / x];
  if (y > 0.5) return [xy / y, y, yz / y];
  return [xz / z, yz / z, z];
}

/**
 * The similarity that brings each point of `from` nearest to the one of the same number of `to` (Umeyama 1991); with
 * `mirrored` also turned inside out. Undefined where the points do not span a space, or too few are given.
 */
function similarityBetween(
  from: Float64Array,
  to: Float64Array,
  { mirrored = false, scaled = true } = {},
): Placing | undefined {
  const n = from.length / 3;
  if (n < 3 || from.length !== to.length) return undefined;
  const [p, q] = [middleOf(from), middleOf(to)];
  const cross = Matrix.zeros(3, 3);
  let spread = 0;
  for (let k = 0; k < from.length; k += 3)
    for (let row = 0; row < 3; row++) {
      const v = (from[k + row] as number) - (p[row] as number);
      spread += v * v;
      for (let column = 0; column < 3; column++)
        cross.set(column, row, cross.get(column, row) + v * ((to[k + column] as number) - (q[column] as number)));
    }
  if (!(spread > 0)) return undefined;
  const svd = new SingularValueDecomposition(cross);
  const [u, v] = [svd.leftSingularVectors, svd.rightSingularVectors];
  const natural = determinant3(u) * determinant3(v);
  const sign = natural < 0 !== mirrored ? -1 : 1;
  const signs = Matrix.diag([1, 1, sign]);
  const turn = u.mmul(signs).mmul(v.transpose());
  const [s0 = 0, s1 = 0, s2 = 0] = svd.diagonal;
  const scale = scaled ? (s0 + s1 + sign * s2) / spread : 1;
  const linear = turn.mul(scale);
  const shift = [0, 1, 2].map(
    (row) =>
      (q[row] as number) - [0, 1, 2].reduce((sum, column) => sum + linear.get(row, column) * (p[column] as number), 0),
  );
  const axis = (column: number): number[] => [linear.get(0, column), linear.get(1, column), linear.get(2, column), 0];
  return [...axis(0), ...axis(1), ...axis(2), ...shift, 1];
}

const determinant3 = (m: Matrix): number =>
  m.get(0, 0) * (m.get(1, 1) * m.get(2, 2) - m.get(1, 2) * m.get(2, 1)) -
  m.get(0, 1) * (m.get(1, 0) * m.get(2, 2) - m.get(1, 2) * m.get(2, 0)) +
  m.get(0, 2) * (m.get(1, 0) * m.get(2, 1) - m.get(1, 1) * m.get(2, 0));

function middleOf(points: Float64Array): Point3 {
  const sum = [0, 0, 0];
  for (let k = 0; k < points.length; k += 3)
    for (let axis = 0; axis < 3; axis++) sum[axis] = (sum[axis] as number) + (points[k + axis] as number);
  const n = points.length / 3;
  return [(sum[0] as number) / n, (sum[1] as number) / n, (sum[2] as number) / n];
}

/** How far the furthest point lands from its counterpart. */
function furthestAfter(from: Float64Array, to: Float64Array, m: Placing): number {
  let most = 0;
  for (let k = 0; k < from.length; k += 3) {
    const [x, y, z] = placePoint(m, [from[k] as number, from[k + 1] as number, from[k + 2] as number]);
    most = Math.max(most, Math.hypot(x - (to[k] as number), y - (to[k + 1] as number), z - (to[k + 2] as number)));
  }
  return most;
}

/** Whether two surfaces have the same triangles of points of the same numbers. */
export const sameTriangles = (a: Mesh, b: Mesh): boolean =>
  a.triangles.length === b.triangles.length && a.triangles.every((point, k) => point === b.triangles[k]);

/** The motion between two surfaces with the same points in the same order, within `reach`; undefined where it is none. */
export function motionBetweenMeshes(a: Mesh, b: Mesh, reach: number): Placing | undefined {
  if (a.points.length !== b.points.length || !sameTriangles(a, b)) return undefined;
  const box = boxOfPoints(b.points);
  const slack = reach + 1e-7 * (box ? diagonal3(box) : 0);
  for (const mirrored of [false, true]) {
    const found = similarityBetween(a.points, b.points, { mirrored });
    if (found && furthestAfter(a.points, b.points, found) <= slack) return found;
  }
  return undefined;
}
