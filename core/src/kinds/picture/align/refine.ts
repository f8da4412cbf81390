/** How well one picture lies on another, and Gauss–Newton steps towards better (Lucas and Kanade 1981). */
import { applyX, applyY, inverse, multiply, shift, type Matrix } from '../../../geometry/matrix.ts';
import { between, type Grey } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, max, min, sqrt } = Math;
const { isNaN } = Number;

const TILE = 12;
const FEWEST = 10;

/**
 * Median of the correlations of tiles that have any detail; less where little of the pictures lies over one another.
 */
export function fitOf(ga: Grey, gb: Grey, m: Matrix): number {
  const back = inverse(m);
  const fits: number[] = [];
  if (!back) return 0;
  let seen = 0;
  let all = 0;
  for (let ty = 0; ty + TILE <= gb.height; ty += TILE) {
    for (let tx = 0; tx + TILE <= gb.width; tx += TILE) {
      let n = 0;
      let sa = 0;
      let sb = 0;
      let saa = 0;
      let sbb = 0;
      let sab = 0;
      for (let y = ty; y < ty + TILE; y++) {
        for (let x = tx; x < tx + TILE; x++) {
          const v = between(ga, applyX(back, x + 0.5, y + 0.5) - 0.5, applyY(back, x + 0.5, y + 0.5) - 0.5);
          const w = gb.data[y * gb.width + x] as number;
          if (isNaN(v)) continue;
          n++;
          sa += v;
          sb += w;
          saa += v * v;
          sbb += w * w;
          sab += v * w;
        }
      }
      all++;
      if (n < TILE * TILE * 0.7) continue;
      seen++;
      const va = saa / n - (sa / n) ** 2;
      const vb = sbb / n - (sb / n) ** 2;
      if (va < 0.5 && vb < 0.5) continue;
      fits.push((sab / n - (sa * sb) / (n * n)) / sqrt((va + 0.25) * (vb + 0.25)));
    }
  }
  const corner = (x: number, y: number): [number, number] => [applyX(m, x, y), applyY(m, x, y)];
  const [x0, y0] = corner(0, 0);
  const [x1, y1] = corner(ga.width, 0);
  const [x2, y2] = corner(0, ga.height);
  const areaA = abs((x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0));
  const areaB = gb.width * gb.height;
  const covered = (seen / max(1, all)) * areaB;
  const share = covered / max(1, min(areaA, areaB));
  // A few tiles fit in many ways.
  if (fits.length < FEWEST || share < 0.2) return 0;
  fits.sort((p, q) => p - q);
  return (fits[fits.length >> 1] as number) * (0.8 + 0.2 * min(1, share));
}

/**
 * Gauss–Newton steps of a turn, a scaling and a shift, with robust weights; gain and offset of lightness are left
 * free.
 */
export function refined(
  ga: Grey,
  gb: Grey,
  start: Matrix,
  { steps = 12, samples = 40_000 }: { readonly steps?: number; readonly samples?: number } = {},
): Matrix {
  let m = start;
  const { width: w, height: h } = gb;
  const stride = max(1, floor(sqrt((w * h) / samples)));
  for (let n = 0; n < steps; n++) {
    const back = inverse(m);
    if (!back) return start;
    const at = (x: number, y: number): number => between(ga, applyX(back, x, y) - 0.5, applyY(back, x, y) - 0.5);
    const rows: number[] = [];
    for (let y = 1; y < h - 1; y += stride) {
      for (let x = 1; x < w - 1; x += stride) {
        const px = x + 0.5;
        const py = y + 0.5;
        const v = at(px, py);
        const gx = (at(px + 1, py) - at(px - 1, py)) / 2;
        const gy = (at(px, py + 1) - at(px, py - 1)) / 2;
        if (!isNaN(v + gx + gy)) rows.push(px - w / 2, py - h / 2, v, gx, gy, gb.data[y * w + x] as number);
      }
    }
    const count = rows.length / 6;
    if (count < 40) return start;
    let sv = 0;
    let sw = 0;
    let svv = 0;
    let svw = 0;
    for (let k = 0; k < rows.length; k += 6) {
      const v = rows[k + 2] as number;
      const t = rows[k + 5] as number;
      sv += v;
      sw += t;
      svv += v * v;
      svw += v * t;
    }
    const spread = svv / count - (sv / count) ** 2;
    const gain = spread > 1e-6 ? min(2, max(0.5, (svw / count - (sv * sw) / (count * count)) / spread)) : 1;
    const offset = sw / count - (gain * sv) / count;
    // A residual over its gradient is how far a pixel is off; flat places say nothing of that.
    const residuals: number[] = [];
    const telling: number[] = [];
    for (let k = 0; k < rows.length; k += 6) {
      const slope = sqrt((rows[k + 3] as number) ** 2 + (rows[k + 4] as number) ** 2);
      const off = abs(gain * (rows[k + 2] as number) + offset - (rows[k + 5] as number)) / (slope + 0.5);
      residuals.push(off);
      if (slope > 1.5) telling.push(off);
    }
    if (telling.length < 20) return m;
    const sorted = Float64Array.from(telling).sort();
    const bound = 4.7 * max(0.2, 1.48 * (sorted[telling.length >> 1] as number));
    // Unknowns: shift x, shift y, turn, growth.
    const system = Array.from({ length: 4 }, () => new Float64Array(5));
    for (let k = 0, i = 0; k < rows.length; k += 6, i++) {
      const r = residuals[i] as number;
      if (r >= bound) continue;
      const weight = (1 - (r / bound) ** 2) ** 2;
      const x = rows[k] as number;
      const y = rows[k + 1] as number;
      const gx = gain * (rows[k + 3] as number);
      const gy = gain * (rows[k + 4] as number);
      const j = [gx, gy, gy * x - gx * y, gx * x + gy * y];
      const e = gain * (rows[k + 2] as number) + offset - (rows[k + 5] as number);
      observe(system, j, e, weight);
    }
    const solved = solve(system);
    if (!solved) return m;
    const [dx = 0, dy = 0, turn = 0, grow = 0] = solved.map((v) => max(-20, min(20, v)));
    const c = 1 + grow;
    m = multiply(multiply(shift(w / 2, h / 2), multiply([c, turn, -turn, c, dx, dy], shift(-w / 2, -h / 2))), m);
    if (abs(dx) + abs(dy) + (abs(turn) + abs(grow)) * max(w, h) < 0.003) break;
  }
  return m;
}

/** Adds one equation j · x = e to the normal equations of a least-squares problem with four unknowns. */
export function observe(system: readonly Float64Array[], j: readonly number[], e: number, weight: number): void {
  for (let p = 0; p < 4; p++) {
    const line = system[p] as Float64Array;
    for (let q = 0; q < 4; q++) line[q] = (line[q] as number) + weight * (j[p] as number) * (j[q] as number);
    line[4] = (line[4] as number) + weight * (j[p] as number) * e;
  }
}

/** Gaussian elimination with pivots; undefined where there is no one solution. */
export function solve(rows: readonly Float64Array[]): number[] | undefined {
  const n = rows.length;
  const a = rows.map((r) => [...r]);
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (abs(a[i]?.[k] as number) > abs(a[pivot]?.[k] as number)) pivot = i;
    [a[k], a[pivot]] = [a[pivot] as number[], a[k] as number[]];
    const lead = a[k]?.[k] as number;
    if (!(abs(lead) > 1e-9)) return undefined;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const by = (a[i]?.[k] as number) / lead;
      for (let j = k; j <= n; j++) (a[i] as number[])[j] = (a[i]?.[j] as number) - by * (a[k]?.[j] as number);
    }
  }
  return a.map((row, k) => (row[n] as number) / (row[k] as number));
}
