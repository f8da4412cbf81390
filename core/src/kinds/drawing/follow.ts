/** Finds a part at a point, and parts of one design in another. */
import type { Box } from '../../geometry/box.ts';
import { pairDefinitions } from './definitions.ts';
import type { Design, Part } from '../../model/design.ts';
import { matchParts } from '../../match/parts.ts';
import { movedDesign, register } from '../../match/registration.ts';
import { toleranceFor } from '../../match/tolerance.ts';

/** Index of the smallest part that is drawn within `reach` of a point; −1 for none. */
export function partAtPoint(design: Design, page: number, x: number, y: number, reach: number): number {
  let best = -1;
  let size = Infinity;
  design.parts.forEach((part, i) => {
    const { box } = part;
    if (
      part.page !== page ||
      !box ||
      x < box[0] - reach ||
      x > box[2] + reach ||
      y < box[1] - reach ||
      y > box[3] + reach
    )
      return;
    const area = (box[2] - box[0] + reach) * (box[3] - box[1] + reach);
    if (area < size && (part.subpaths === 0 || touches(design, part, x, y, reach) || inside(box, x, y))) {
      best = i;
      size = area;
    }
  });
  return best;
}

const inside = (box: Box, x: number, y: number): boolean => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3];

function touches(design: Design, part: Part, x: number, y: number, reach: number): boolean {
  const { points, starts } = design.geometry;
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    for (let p = starts[s] as number; p + 1 < (starts[s + 1] as number); p++) {
      const x0 = points[2 * p] as number;
      const y0 = points[2 * p + 1] as number;
      const dx = (points[2 * p + 2] as number) - x0;
      const dy = (points[2 * p + 3] as number) - y0;
      const l = dx * dx + dy * dy;
      const t = l > 0 ? Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / l)) : 0;
      if (Math.hypot(x - x0 - t * dx, y - y0 - t * dy) <= reach) return true;
    }
  }
  return false;
}

/** For each part of `a` named by its index: the index of the same part in `b`, −1 where it is no longer there. */
export function followParts(a: Design, b: Design, parts: readonly number[]): number[] {
  const tolerance = toleranceFor(a, b);
  const registration = register(a, b, tolerance);
  const seen = registration ? movedDesign(a, registration.matrix) : a;
  const { toB } = matchParts(seen, b, tolerance, pairDefinitions(seen, b, tolerance).alike);
  return parts.map((i) => toB[i] ?? -1);
}
