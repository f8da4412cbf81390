/**
 * Whether one part's geometry is the other's, rigidly moved: least-squares fit of a similarity (complex z′ = αz + β).
 */
import type { Point3 } from '../mesh/mesh.ts';
import type { Placing } from '../mesh/placing.ts';
import type { Design, Part } from '../model/design.ts';
import type { Matrix } from '../geometry/matrix.ts';
import { pointRange } from './same-geometry.ts';

export interface Motion {
  readonly dx: number;
  readonly dy: number;
  /** Degrees, −180 to 180. */
  readonly turn: number;
  readonly scale: number;
  readonly mirrored: boolean;
  /** The map itself: z′ = (re + i·im)·z + (x + i·y), of z with its y turned over where mirrored. */
  readonly re: number;
  readonly im: number;
  readonly x: number;
  readonly y: number;
  /** Of what stands in space: the map itself, in place of that of a page; `turn` is about `axis` then. */
  readonly space?: { readonly placing: Placing; readonly axis: Point3; readonly dz: number };
}

/** undefined where no motion brings every point to its counterpart within `reach`. */
export function motionBetween(a: Design, partA: Part, b: Design, partB: Part, reach: number): Motion | undefined {
  const [fromA, toA] = pointRange(a, partA);
  const [fromB, toB] = pointRange(b, partB);
  const n = toA - fromA;
  if (partA.subpaths !== partB.subpaths || n !== toB - fromB || n === 0) return undefined;
  const p = a.geometry.points.subarray(2 * fromA, 2 * toA);
  const q = b.geometry.points.subarray(2 * fromB, 2 * toB);
  return fit(p, q, n, reach, false) ?? fit(p, q, n, reach, true);
}

function fit(p: Float64Array, q: Float64Array, n: number, reach: number, mirrored: boolean): Motion | undefined {
  const flip = mirrored ? -1 : 1;
  let px = 0;
  let py = 0;
  let qx = 0;
  let qy = 0;
  for (let k = 0; k < 2 * n; k += 2) {
    px += p[k] as number;
    py += flip * (p[k + 1] as number);
    qx += q[k] as number;
    qy += q[k + 1] as number;
  }
  px /= n;
  py /= n;
  qx /= n;
  qy /= n;
  let re = 0;
  let im = 0;
  let norm = 0;
  for (let k = 0; k < 2 * n; k += 2) {
    const x = (p[k] as number) - px;
    const y = flip * (p[k + 1] as number) - py;
    const u = (q[k] as number) - qx;
    const v = (q[k + 1] as number) - qy;
    re += x * u + y * v;
    im += x * v - y * u;
    norm += x * x + y * y;
  }
  const ar = norm > 0 ? re / norm : 1;
  const ai = norm > 0 ? im / norm : 0;
  for (let k = 0; k < 2 * n; k += 2) {
    const x = (p[k] as number) - px;
    const y = flip * (p[k + 1] as number) - py;
    const u = (q[k] as number) - qx;
    const v = (q[k + 1] as number) - qy;
    if (Math.abs(ar * x - ai * y - u) > reach || Math.abs(ai * x + ar * y - v) > reach) return undefined;
  }
  return {
    dx: qx - px,
    dy: qy - flip * py,
    turn: (Math.atan2(ai, ar) * 180) / Math.PI,
    scale: Math.hypot(ar, ai),
    mirrored,
    re: ar,
    im: ai,
    x: qx - ar * px + ai * py,
    y: qy - ai * px - ar * py,
  };
}

/** The motion that leads from one transform to another, if its linear part is a similarity. */
export function motionOfTransforms(from: Matrix, to: Matrix): Motion | undefined {
  const det = from[0] * from[3] - from[1] * from[2];
  if (Math.abs(det) < 1e-300) return undefined;
  // to · from⁻¹
  const a = (to[0] * from[3] - to[2] * from[1]) / det;
  const b = (to[1] * from[3] - to[3] * from[1]) / det;
  const c = (to[2] * from[0] - to[0] * from[2]) / det;
  const d = (to[3] * from[0] - to[1] * from[2]) / det;
  const mirrored = a * d - b * c < 0;
  const size = Math.max(Math.abs(a), Math.abs(b), Math.abs(c), Math.abs(d));
  const noise = 1e-6 * size;
  if (
    mirrored ? Math.abs(a + d) > noise || Math.abs(b - c) > noise : Math.abs(a - d) > noise || Math.abs(b + c) > noise
  )
    return undefined;
  const flip = mirrored ? -1 : 1;
  const px = from[4];
  const py = flip * from[5];
  return {
    dx: to[4] - from[4],
    dy: to[5] - from[5],
    turn: (Math.atan2(b, a) * 180) / Math.PI,
    scale: Math.hypot(a, b),
    mirrored,
    re: a,
    im: b,
    x: to[4] - a * px + b * py,
    y: to[5] - b * px - a * py,
  };
}

/** The one shift that some points of an outline made while all others stayed; undefined where it is not so simple. */
export function stretchBetween(
  a: Design,
  partA: Part,
  b: Design,
  partB: Part,
  reach: number,
): readonly [number, number] | undefined {
  const [fromA, toA] = pointRange(a, partA);
  const [fromB, toB] = pointRange(b, partB);
  const n = toA - fromA;
  if (partA.subpaths !== partB.subpaths || n !== toB - fromB || n < 2) return undefined;
  let dx = 0;
  let dy = 0;
  let moved = 0;
  for (let k = 0; k < n; k++) {
    const x = (b.geometry.points[2 * (fromB + k)] as number) - (a.geometry.points[2 * (fromA + k)] as number);
    const y = (b.geometry.points[2 * (fromB + k) + 1] as number) - (a.geometry.points[2 * (fromA + k) + 1] as number);
    if (Math.abs(x) <= reach && Math.abs(y) <= reach) continue;
    if (moved && (Math.abs(x - dx) > reach || Math.abs(y - dy) > reach)) return undefined;
    if (!moved) [dx, dy] = [x, y];
    moved++;
  }
  return moved > 0 && moved < n ? [dx, dy] : undefined;
}
