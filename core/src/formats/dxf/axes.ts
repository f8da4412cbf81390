/**
 * Entity coordinate systems: where a plane with a given normal has its x and y axes (DXF reference, "Arbitrary Axis
 * Algorithm").
 */
import { identity, type Matrix } from '../../geometry/matrix.ts';

/** Drawing coordinates have y upwards, pages have it downwards. */
export const flip: Matrix = [1, 0, 0, -1, 0, 0];

/** The same map, written for coordinates with y downwards. */
export const flipped = (m: Matrix): Matrix => [m[0], -m[1], -m[2], m[3], m[4], -m[5]];

/** From the entity's plane to the drawing, seen from above. `z` is the elevation in the plane's own coordinates. */
export function planeOf(nx: number, ny: number, nz: number, z: number): Matrix {
  if (nx === 0 && ny === 0 && nz > 0) return identity;
  const length = Math.hypot(nx, ny, nz);
  if (!(length > 0) || !Number.isFinite(length)) return identity;
  const n = [nx / length, ny / length, nz / length] as const;
  // Near the world's z axis the x axis is y × n, else z × n.
  const near = Math.abs(n[0]) < 1 / 64 && Math.abs(n[1]) < 1 / 64;
  const raw = near ? ([n[2], 0, -n[0]] as const) : ([-n[1], n[0], 0] as const);
  const size = Math.hypot(...raw);
  const ax = [raw[0] / size, raw[1] / size, raw[2] / size] as const;
  const ay = [n[1] * ax[2] - n[2] * ax[1], n[2] * ax[0] - n[0] * ax[2]] as const;
  return [ax[0], ax[1], ay[0], ay[1], n[0] * z, n[1] * z];
}
