/** Arithmetic with points and directions. */
import type { Point3 } from './mesh.ts';

export const minus = (p: Point3, q: Point3): Point3 => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];

export const dot = (p: Point3, q: Point3): number => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];

export const cross = (p: Point3, q: Point3): Point3 => [
  p[1] * q[2] - p[2] * q[1],
  p[2] * q[0] - p[0] * q[2],
  p[0] * q[1] - p[1] * q[0],
];

/** Of length 1; of nothing, nothing. */
export function unit(p: Point3): Point3 {
  const length = Math.hypot(...p) || 1;
  return [p[0] / length, p[1] / length, p[2] / length];
}
