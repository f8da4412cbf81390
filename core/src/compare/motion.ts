/** Whether one part's geometry is the other's, rigidly moved: least-squares fit of a similarity (complex z′ = αz + β). */
import type { Design, Part } from '../model/design.ts';
import { pointRange } from '../match/same-geometry.ts';

export interface Motion {
  readonly dx: number;
  readonly dy: number;
  /** Degrees, −180 to 180. */
  readonly turn: number;
  readonly scale: number;
  readonly mirrored: boolean;
}

/** undefined where no motion brings every point to its counterpart within `reach`. */
export function motionBetween(a: Design, partA: Part, b: Design, partB: Part, reach: number): Motion | undefined {
  const [fromA, toA] = pointRange(a, partA), [fromB, toB] = pointRange(b, partB);
  const n = toA - fromA;
  if (partA.subpaths !== partB.subpaths || n !== toB - fromB || n === 0) return undefined;
  const p = a.geometry.points.subarray(2 * fromA, 2 * toA), q = b.geometry.points.subarray(2 * fromB, 2 * toB);
  return fit(p, q, n, reach, false) ?? fit(p, q, n, reach, true);
}

function fit(p: Float64Array, q: Float64Array, n: number, reach: number, mirrored: boolean): Motion | undefined {
  const flip = mirrored ? -1 : 1;
  let px = 0, py = 0, qx = 0, qy = 0;
  for (let k = 0; k < 2 * n; k += 2) {
    px += p[k] as number;
    py += flip * (p[k + 1] as number);
    qx += q[k] as number;
    qy += q[k + 1] as number;
  }
  px /= n; py /= n; qx /= n; qy /= n;
  let re = 0, im = 0, norm = 0;
  for (let k = 0; k < 2 * n; k += 2) {
    const x = (p[k] as number) - px, y = flip * (p[k + 1] as number) - py;
    const u = (q[k] as number) - qx, v = (q[k + 1] as number) - qy;
    re += x * u + y * v;
    im += x * v - y * u;
    norm += x * x + y * y;
  }
  const ar = norm > 0 ? re / norm : 1, ai = norm > 0 ? im / norm : 0;
  for (let k = 0; k < 2 * n; k += 2) {
    const x = (p[k] as number) - px, y = flip * (p[k + 1] as number) - py;
    const u = (q[k] as number) - qx, v = (q[k + 1] as number) - qy;
    if (Math.abs(ar * x - ai * y - u) > reach || Math.abs(ai * x + ar * y - v) > reach) return undefined;
  }
  return { dx: qx - px, dy: qy - flip * py, turn: (Math.atan2(ai, ar) * 180) / Math.PI, scale: Math.hypot(ar, ai), mirrored };
}
