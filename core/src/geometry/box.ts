import { applyX, applyY, type Matrix } from './matrix.ts';

/** Axis-aligned rectangle in design units: left, top, right, bottom. */
export type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

export const unite = (a: Box | undefined, b: Box | undefined): Box | undefined => {
  if (!a) return b;
  if (!b) return a;
  return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
};

export const width = (b: Box): number => b[2] - b[0];
export const height = (b: Box): number => b[3] - b[1];
export const centreX = (b: Box): number => (b[0] + b[2]) / 2;
export const centreY = (b: Box): number => (b[1] + b[3]) / 2;
export const diagonal = (b: Box): number => Math.hypot(width(b), height(b));

/** Length of the gap between two boxes; 0 where they touch or overlap. */
export const gap = (a: Box, b: Box): number =>
  Math.hypot(Math.max(0, a[0] - b[2], b[0] - a[2]), Math.max(0, a[1] - b[3], b[1] - a[3]));

/** Bounds of a box that is moved by `m`. */
export function boxAround(b: Box, m: Matrix): Box {
  const x = [applyX(m, b[0], b[1]), applyX(m, b[2], b[1]), applyX(m, b[0], b[3]), applyX(m, b[2], b[3])];
  const y = [applyY(m, b[0], b[1]), applyY(m, b[2], b[1]), applyY(m, b[0], b[3]), applyY(m, b[2], b[3])];
  return [Math.min(...x), Math.min(...y), Math.max(...x), Math.max(...y)];
}
