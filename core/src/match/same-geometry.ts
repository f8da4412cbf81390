/** Whether two parts draw the same line, however it is written. */
import type { Design, Part } from '../model/design.ts';

/** Relative difference of length and area that curves cut at different places may show. */
const CURVE_NOISE = 5e-4;

/**
 * Points agree one by one within `reach`; or, where they are cut differently, length and area do (boxes are compared
 * before).
 */
export function sameGeometry(a: Design, partA: Part, b: Design, partB: Part, reach: number): boolean {
  if (partA.subpaths === 0 && partB.subpaths === 0) return true;
  const [fromA, toA] = pointRange(a, partA);
  const [fromB, toB] = pointRange(b, partB);
  if (partA.subpaths === partB.subpaths && toA - fromA === toB - fromB) {
    let agree = true;
    for (let k = 0; agree && k < 2 * (toA - fromA); k++) {
      agree =
        Math.abs((a.geometry.points[2 * fromA + k] as number) - (b.geometry.points[2 * fromB + k] as number)) <= reach;
    }
    if (agree) return true;
  }
  const x = measure(a, partA);
  const y = measure(b, partB);
  const close = (p: number, q: number, noise: number): boolean =>
    Math.abs(p - q) <= Math.max(Math.abs(p), Math.abs(q)) * CURVE_NOISE + noise;
  return (
    x.closed === y.closed &&
    close(x.length, y.length, reach) &&
    close(x.area, y.area, reach * x.length) &&
    close(x.momentX, y.momentX, reach * x.length) &&
    close(x.momentY, y.momentY, reach * x.length)
  );
}

/** First and one-past-last point of a part. */
export function pointRange(design: Design, part: Part): [number, number] {
  const { starts } = design.geometry;
  return [starts[part.firstSubpath] ?? 0, starts[part.firstSubpath + part.subpaths] ?? 0];
}

interface Measure {
  length: number;
  area: number;
  /** First moments of the line about the corner of the part's box. */
  momentX: number;
  momentY: number;
  closed: number;
}

function measure(design: Design, part: Part): Measure {
  const { points, starts, closed } = design.geometry;
  const ox = part.box?.[0] ?? 0;
  const oy = part.box?.[1] ?? 0;
  const m: Measure = { length: 0, area: 0, momentX: 0, momentY: 0, closed: 0 };
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const begin = starts[s] as number;
    const end = starts[s + 1] as number;
    m.closed += closed[s] as number;
    let area = 0;
    for (let p = begin; p < end; p++) {
      const q = p + 1 < end ? p + 1 : begin;
      const x0 = (points[2 * p] as number) - ox;
      const y0 = (points[2 * p + 1] as number) - oy;
      const x1 = (points[2 * q] as number) - ox;
      const y1 = (points[2 * q + 1] as number) - oy;
      area += x0 * y1 - x1 * y0;
      if (q === begin && !closed[s]) continue;
      const length = Math.hypot(x1 - x0, y1 - y0);
      m.length += length;
      m.momentX += (length * (x0 + x1)) / 2;
      m.momentY += (length * (y0 + y1)) / 2;
    }
    m.area += Math.abs(area) / 2;
  }
  return m;
}
