/** The distance within which two coordinates count as the same, chosen from the data. */
import type { Design } from '../model/design.ts';
import { diagonalOf } from './traits.ts';

/** Parts that are looked at. */
const SAMPLE = 4000;
/** Decimals that are tried, from whole tens to millionths. */
const DECIMALS = [-1, 0, 1, 2, 3, 4, 5, 6];

/**
 * A millionth of the larger drawing's size; or, where one
 * side was saved with fewer decimals than the other (re-exported), the rounding error of that.
 */
export function toleranceFor(a: Design, b: Design): number {
  const extent = Math.max(diagonalOf(a), diagonalOf(b));
  const base = extent * 1e-6 || 1e-9;
  const rounding = roundingBetween(coordinates(a), coordinates(b));
  return Math.max(base, Math.min(rounding, extent * 2e-3));
}

/** Coordinates as the file has them: ends of outlines and origins, not what flattening put between. */
function coordinates(design: Design): Float64Array {
  const { points, starts } = design.geometry;
  const every = Math.max(1, Math.floor(design.parts.length / SAMPLE));
  const out: number[] = [];
  for (let i = 0; i < design.parts.length; i += every) {
    const part = design.parts[i];
    if (!part || round.has(part.kind)) continue;
    if (part.definition !== undefined || part.lettering) out.push(part.transform[4], part.transform[5]);
    else if (part.subpaths) {
      const first = 2 * (starts[part.firstSubpath] as number);
      const last = 2 * (starts[part.firstSubpath + 1] as number) - 2;
      out.push(
        points[first] as number,
        points[first + 1] as number,
        points[last] as number,
        points[last + 1] as number,
      );
    }
  }
  return Float64Array.from(out);
}

/** Kinds whose outline is computed, so that its points are on no grid. */
const round: ReadonlySet<string> = new Set(['circle', 'arc', 'ellipse', 'spline']);

/** Share of the coordinates that are multiples of 10^−decimals. */
function onGrid(values: Float64Array, decimals: number): number {
  const factor = 10 ** decimals;
  let on = 0;
  for (const v of values) {
    const scaled = v * factor;
    if (Math.abs(scaled - Math.round(scaled)) <= 1e-6 * Math.max(1, Math.abs(scaled) * 1e-6)) on++;
  }
  return values.length ? on / values.length : 1;
}

/**
 * True where what is off the grid is so by ever different amounts: numbers that were rounded, not a few that were
 * shifted alike.
 */
function scattered(values: Float64Array, decimals: number): boolean {
  const factor = 10 ** decimals;
  const counts = new Map<number, number>();
  let off = 0;
  for (const v of values) {
    const rest = v * factor - Math.round(v * factor);
    if (Math.abs(rest) <= 1e-6) continue;
    off++;
    const bucket = Math.round(rest * 1000);
    counts.set(bucket, (counts.get(bucket) ?? 0) + 1);
  }
  return counts.size >= 8 && Math.max(...counts.values()) < 0.3 * off;
}

/** Half a step of the coarser side's grid, where it is plainly a rounding of the finer one; else 0. */
function roundingBetween(a: Float64Array, b: Float64Array): number {
  if (a.length < 8 || b.length < 8) return 0;
  for (const decimals of DECIMALS) {
    const inA = onGrid(a, decimals);
    const inB = onGrid(b, decimals);
    const most = Math.max(inA, inB);
    const least = Math.min(inA, inB);
    if (most > 0.995 && least < 0.8 && scattered(inA < inB ? a : b, decimals))
      return 0.5001 * 10 ** -decimals * Math.SQRT2;
    if (most > 0.995) return 0;
  }
  return 0;
}
