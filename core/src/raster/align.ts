/**
 * Lays one picture over another. Candidates (as it is, resized, flipped, turned, shifted by phase correlation, turned and scaled by
 * log-polar spectra: Reddy and Chatterji 1996) are scored by local correlation, the best is refined by Gauss–Newton steps
 * (Lucas and Kanade 1981), from coarse to fine, and at last by patches at full size.
 */
import { applyX, applyY, identity, inverse, multiply, type Matrix } from '../geometry/matrix.ts';
import { between, halved, lightnessOf, Tones, words, type Bitmap, type Grey } from './bitmap.ts';
import { logPolar, shifts, Spectrum, squared } from './fourier.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, ceil, cos, floor, hypot, max, min, round, sin, sqrt } = Math;
const { isNaN } = Number;

export interface Alignment {
  /** From the corners of A's pixels to those of B's. */
  readonly matrix: Matrix;
  /** Median of local correlations of what lies over one another: 1 for the same. */
  readonly fit: number;
  /** False where the pictures have too little in common; the matrix then only makes A as large as B. */
  readonly found: boolean;
}

/** Longest side of the pictures that candidates are tried on. */
const COARSE = 400;
/** Longest side of those that the best candidate is refined on. */
const FINE = 1600;
const SQUARE = 256;
/** A fit that needs no other tries; and one that cannot be that of a repeated pattern a period away. */
const GOOD = 0.9, CERTAIN = 0.99;
/** Shifts smaller than this at every corner are none, in pixels. */
const STILL = 0.06;

const shift = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];

export function align(a: Bitmap, b: Bitmap): Alignment {
  if (sameInPlace(a, b)) return { matrix: identity, fit: 1, found: true };
  // From fine to coarse, each half of the one before.
  const longest = max(a.width, a.height, b.width, b.height), levels: { step: number; ga: Grey; gb: Grey }[] = [];
  let step = 1;
  while (longest / step > FINE) step *= 2;
  for (let ga = lightnessOf(a, step), gb = lightnessOf(b, step); ; [ga, gb, step] = [halved(ga), halved(gb), step * 2]) {
    levels.push({ step, ga, gb });
    if (longest / step <= COARSE) break;
  }
  const { ga, gb } = levels.at(-1) as (typeof levels)[number];
  const scale = [1 / step, 0, 0, 1 / step, 0, 0] as const, back = [step, 0, 0, step, 0, 0] as const;
  const coarse = (m: Matrix): Matrix => multiply(scale, multiply(m, back)), full = (m: Matrix): Matrix => multiply(back, multiply(m, scale));
  const asLarge: Matrix = [b.width / a.width, 0, 0, b.height / a.height, 0, 0], resized = a.width !== b.width || a.height !== b.height;
  const plain = [identity, ...(resized ? [asLarge] : [])].map(coarse);
  const candidates = chosen(ga, gb, [() => plain, () => [...shifted(ga, gb, plain), ...plain.map((m) => throughPyramid(ga, gb, m))], () => flips(a, b).map(coarse), () => turned(ga, gb)]);
  const [best] = candidates;
  if (!best || best.fit < 0.35) return { matrix: resized ? asLarge : identity, fit: best?.fit ?? 0, found: false };
  const sharper = (m: Matrix, through: typeof levels): Matrix => through.reduce((at, level) => {
    const up = [1 / level.step, 0, 0, 1 / level.step, 0, 0] as const, down = [level.step, 0, 0, level.step, 0, 0] as const;
    return multiply(down, multiply(refined(level.ga, level.gb, multiply(up, multiply(at, down))), up));
  }, m);
  const finer = levels.slice(0, -1).reverse(), next = finer.slice(0, 1), [level] = next;
  // A step more sharply seen it shows which of several is right; only that is seen through to the end.
  const right = candidates.length > 1 && level ? leastLeft(candidates.map((c) => sharper(full(c.m), next)), level) : level ? sharper(full(best.m), next) : full(refined(ga, gb, best.m));
  const matrix = byPatches(a, b, sharper(right, finer.slice(1)));
  return { matrix: snapped(matrix, a, b, asLarge), fit: best.fit, found: true };
}

interface Fitted {
  readonly m: Matrix;
  readonly fit: number;
}

/** Fits within this of the best are told apart by what is left over, seen more sharply; and so many of them at most. */
const CLOSE = 0.08, MOST_CLOSE = 6;
/** Pixels of the coarse pictures that two candidates are apart. */
const APART = 1.5;

/** The best fit, and those that fit nearly as well elsewhere: where a pattern repeats, many do. */
function likeliest(tried: readonly Fitted[], { width, height }: Grey): Fitted[] {
  const sorted = [...tried].sort((p, q) => q.fit - p.fit), out: Fitted[] = [], [best] = sorted;
  const corners = ({ m }: Fitted): number[] => [[0, 0], [width, height]].flatMap(([x = 0, y = 0]) => [applyX(m, x, y), applyY(m, x, y)]);
  for (const one of sorted) {
    if (!best || one.fit < best.fit - CLOSE || (out.length && one.fit < 0.35) || out.length >= MOST_CLOSE) break;
    if (out.every((o) => corners(o).some((v, k) => abs(v - (corners(one)[k] as number)) > APART))) out.push(one);
  }
  return out;
}

/** The first, unless another leaves much less over. */
function leastLeft(matrices: readonly Matrix[], { ga, gb, step }: { readonly ga: Grey; readonly gb: Grey; readonly step: number }): Matrix {
  const up = [1 / step, 0, 0, 1 / step, 0, 0] as const, down = [step, 0, 0, step, 0, 0] as const, left = matrices.map((m) => residualOf(ga, gb, multiply(up, multiply(m, down)))), least = left.indexOf(min(...left));
  return matrices[(left[least] as number) < 0.85 * (left[0] as number) ? least : 0] as Matrix;
}

/** Mean difference of lightness where both are, less what all of it differs by. */
function residualOf(ga: Grey, gb: Grey, m: Matrix): number {
  const back = inverse(m), list: number[] = [];
  if (!back) return Infinity;
  for (let y = 1; y < gb.height; y += 3) {
    for (let x = 1; x < gb.width; x += 3) {
      const v = between(ga, applyX(back, x + 0.5, y + 0.5) - 0.5, applyY(back, x + 0.5, y + 0.5) - 0.5);
      if (!isNaN(v)) list.push(v - (gb.data[y * gb.width + x] as number));
    }
  }
  const mean = list.reduce((n, v) => n + v, 0) / (list.length || 1);
  return list.length ? list.reduce((n, v) => n + abs(v - mean), 0) / list.length : Infinity;
}

/** Longest side of the picture that shows nothing but where it is light and dark. */
const BLURRED = 24;

/** From a blurred view to a sharp one: follows light and dark as a whole first, so that no pattern leads astray. */
function throughPyramid(ga: Grey, gb: Grey, start: Matrix): Matrix {
  const levels: { ga: Grey; gb: Grey; k: number }[] = [{ ga, gb, k: 1 }];
  for (let last = levels[0] as (typeof levels)[number]; max(last.gb.width, last.gb.height) > BLURRED; levels.push(last)) last = { ga: halved(last.ga), gb: halved(last.gb), k: last.k * 2 };
  return levels.reverse().reduce((m, level) => {
    const down = [1 / level.k, 0, 0, 1 / level.k, 0, 0] as const, up = [level.k, 0, 0, level.k, 0, 0] as const;
    return multiply(up, multiply(refined(level.ga, level.gb, multiply(down, multiply(m, up))), down));
  }, start);
}

/** Candidates are only told from one another: fewer pixels do. */
const SCREENING = { steps: 8, samples: 7_000 };

/** The best of several kinds of candidates; after the second kind, later ones are not tried where one fits well. The likeliest first. */
function chosen(ga: Grey, gb: Grey, kinds: readonly (() => readonly Matrix[])[]): Fitted[] {
  const tried: Fitted[] = [{ m: identity, fit: 0 }];
  for (const [k, kind] of kinds.entries()) {
    const scored = kind().map((m) => ({ m, fit: fitOf(ga, gb, m) })).sort((p, q) => q.fit - p.fit).slice(0, k === 1 ? 5 : 3);
    tried.push(...scored.map(({ m }) => refined(ga, gb, m, SCREENING)).map((m) => ({ m, fit: fitOf(ga, gb, m) })));
    if (tried.some((t) => t.fit > (k ? GOOD : CERTAIN))) break;
  }
  return likeliest(tried, ga);
}

/** Whether nothing was moved as a whole: edges, or failing those most other detail, are where they were, pixel for pixel. */
function sameInPlace(a: Bitmap, b: Bitmap): boolean {
  if (a.width !== b.width || a.height !== b.height) return false;
  const p = words(a), q = words(b), n = p.length, stride = max(1, floor(n / 60_000)) | 1;
  let edges = 0, sameEdges = 0, detailed = 0, same = 0, differing = 0;
  for (let i = 1; i < n; i += stride) {
    const equal = p[i] === q[i] && p[i - 1] === q[i - 1];
    if (p[i] !== q[i]) differing++;
    if (p[i] === p[i - 1]) continue;
    detailed++;
    if (equal) same++;
    // Clear edges tell most: what is nearly flat looks nearly the same wherever it lies.
    if (apart(p[i] as number, p[i - 1] as number) < EDGE) continue;
    edges++;
    if (equal) sameEdges++;
  }
  return differing === 0 || (edges > 12 && sameEdges > (edges > 200 ? 0.3 : 0.6) * edges) || (detailed > 200 && same > 0.7 * detailed);
}

/** How far two colours are from one another, channels added up. */
const apart = (p: number, q: number): number => abs((p & 255) - (q & 255)) + abs(((p >> 8) & 255) - ((q >> 8) & 255)) + abs(((p >> 16) & 255) - ((q >> 16) & 255));
const EDGE = 24;

function flips(a: Bitmap, b: Bitmap): Matrix[] {
  const { width: w, height: h } = a, out: Matrix[] = [[-1, 0, 0, 1, w, 0], [1, 0, 0, -1, 0, h], [-1, 0, 0, -1, w, h]];
  const sx = b.width / w, sy = b.height / h;
  const upright = out.map((m) => multiply([sx, 0, 0, sy, 0, 0], m));
  // Quarter turns, which exchange width and height.
  const tx = b.width / h, ty = b.height / w, quarters: Matrix[] = [[0, 1, -1, 0, h, 0], [0, -1, 1, 0, 0, w], [0, 1, 1, 0, 0, 0], [0, -1, -1, 0, h, w]];
  return [...upright, ...quarters.map((m) => multiply([tx, 0, 0, ty, 0, 0], m))];
}

/** Each of the matrices, followed by the shift that phase correlation finds. */
function shifted(ga: Grey, gb: Grey, bases: readonly Matrix[]): Matrix[] {
  const to = Spectrum.of(squared(within(gb, identity, SQUARE), SQUARE), SQUARE);
  return bases.flatMap((base) => {
    const from = Spectrum.of(squared(within(ga, base, SQUARE), SQUARE), SQUARE), k = max(gb.width, gb.height, 1) / SQUARE;
    return shifts(from, to, 5).map(({ dx, dy }) => multiply(shift(dx * k, dy * k), base));
  });
}

/** A grey picture through a matrix, in a square that holds B's page. */
function within(g: Grey, m: Matrix, size: number, longest = max(g.width, g.height)): Grey {
  const k = longest / size, out = new Float32Array(size * size), back = inverse(m);
  let mean = 0;
  for (const v of g.data) mean += v;
  mean /= g.data.length || 1;
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      const px = (x + 0.5) * k, py = (y + 0.5) * k, v = back ? between(g, applyX(back, px, py) - 0.5, applyY(back, px, py) - 0.5) : NaN;
      out[y * size + x] = isNaN(v) ? mean : v;
    }
  }
  return { width: size, height: size, data: out };
}

/** Turns and scalings from the spectra, each with its shift. */
function turned(ga: Grey, gb: Grey): Matrix[] {
  const longest = max(ga.width, ga.height, gb.width, gb.height);
  const a = Spectrum.of(squared(within(ga, identity, SQUARE, longest), SQUARE), SQUARE), to = within(gb, identity, SQUARE, longest), b = Spectrum.of(squared(to, SQUARE), SQUARE);
  const pa = logPolar(a), pb = logPolar(b), k = longest / SQUARE, ends = Spectrum.of(squared(to, SQUARE), SQUARE);
  return shifts(Spectrum.of(pa.square, SQUARE), Spectrum.of(pb.square, SQUARE), 3).flatMap(({ dx, dy }) => {
    const angle = (PI * dy) / SQUARE, s = pa.ratio ** -dx;
    if (s < 0.3 || s > 3.3) return [];
    return [angle, angle + PI].flatMap((turn) => {
      const cx = ga.width / 2, cy = ga.height / 2, c = cos(turn) * s, n = sin(turn) * s;
      const about = multiply(shift(gb.width / 2, gb.height / 2), multiply([c, n, -n, c, 0, 0], shift(-cx, -cy)));
      const from = Spectrum.of(squared(within(ga, about, SQUARE, longest), SQUARE), SQUARE);
      return shifts(from, ends, 1).map((p) => multiply(shift(p.dx * k, p.dy * k), about));
    });
  });
}

const TILE = 12;
const FEWEST = 10;

/** Median of the correlations of tiles that have any detail; less where little of the pictures lies over one another. */
export function fitOf(ga: Grey, gb: Grey, m: Matrix): number {
  const back = inverse(m), fits: number[] = [];
  if (!back) return 0;
  let seen = 0, all = 0;
  for (let ty = 0; ty + TILE <= gb.height; ty += TILE) {
    for (let tx = 0; tx + TILE <= gb.width; tx += TILE) {
      let n = 0, sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
      for (let y = ty; y < ty + TILE; y++) {
        for (let x = tx; x < tx + TILE; x++) {
          const v = between(ga, applyX(back, x + 0.5, y + 0.5) - 0.5, applyY(back, x + 0.5, y + 0.5) - 0.5), w = gb.data[y * gb.width + x] as number;
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
      const va = saa / n - (sa / n) ** 2, vb = sbb / n - (sb / n) ** 2;
      if (va < 0.5 && vb < 0.5) continue;
      fits.push((sab / n - (sa * sb) / (n * n)) / sqrt((va + 0.25) * (vb + 0.25)));
    }
  }
  const corner = (x: number, y: number): [number, number] => [applyX(m, x, y), applyY(m, x, y)], [x0, y0] = corner(0, 0), [x1, y1] = corner(ga.width, 0), [x2, y2] = corner(0, ga.height);
  const areaA = abs((x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)), areaB = gb.width * gb.height, covered = (seen / max(1, all)) * areaB;
  const share = covered / max(1, min(areaA, areaB));
  // A few tiles fit in many ways.
  if (fits.length < FEWEST || share < 0.2) return 0;
  fits.sort((p, q) => p - q);
  return (fits[fits.length >> 1] as number) * (0.8 + 0.2 * min(1, share));
}

/** Gauss–Newton steps of a turn, a scaling and a shift, with robust weights; gain and offset of lightness are left free. */
export function refined(ga: Grey, gb: Grey, start: Matrix, { steps = 12, samples = 40_000 }: { readonly steps?: number; readonly samples?: number } = {}): Matrix {
  let m = start;
  const { width: w, height: h } = gb, stride = max(1, floor(sqrt((w * h) / samples)));
  for (let n = 0; n < steps; n++) {
    const back = inverse(m);
    if (!back) return start;
    const at = (x: number, y: number): number => between(ga, applyX(back, x, y) - 0.5, applyY(back, x, y) - 0.5);
    const rows: number[] = [];
    for (let y = 1; y < h - 1; y += stride) {
      for (let x = 1; x < w - 1; x += stride) {
        const px = x + 0.5, py = y + 0.5, v = at(px, py), gx = (at(px + 1, py) - at(px - 1, py)) / 2, gy = (at(px, py + 1) - at(px, py - 1)) / 2;
        if (!isNaN(v + gx + gy)) rows.push(px - w / 2, py - h / 2, v, gx, gy, gb.data[y * w + x] as number);
      }
    }
    const count = rows.length / 6;
    if (count < 40) return start;
    let sv = 0, sw = 0, svv = 0, svw = 0;
    for (let k = 0; k < rows.length; k += 6) {
      const v = rows[k + 2] as number, t = rows[k + 5] as number;
      sv += v;
      sw += t;
      svv += v * v;
      svw += v * t;
    }
    const spread = svv / count - (sv / count) ** 2, gain = spread > 1e-6 ? min(2, max(0.5, (svw / count - (sv * sw) / (count * count)) / spread)) : 1, offset = sw / count - (gain * sv) / count;
    // A residual over its gradient is how far a pixel is off; flat places say nothing of that.
    const residuals: number[] = [], telling: number[] = [];
    for (let k = 0; k < rows.length; k += 6) {
      const slope = sqrt((rows[k + 3] as number) ** 2 + (rows[k + 4] as number) ** 2), off = abs(gain * (rows[k + 2] as number) + offset - (rows[k + 5] as number)) / (slope + 0.5);
      residuals.push(off);
      if (slope > 1.5) telling.push(off);
    }
    if (telling.length < 20) return m;
    const sorted = Float64Array.from(telling).sort(), bound = 4.7 * max(0.2, 1.48 * (sorted[telling.length >> 1] as number));
    // Unknowns: shift x, shift y, turn, growth.
    const system = Array.from({ length: 4 }, () => new Float64Array(5));
    for (let k = 0, i = 0; k < rows.length; k += 6, i++) {
      const r = residuals[i] as number;
      if (r >= bound) continue;
      const weight = (1 - (r / bound) ** 2) ** 2, x = rows[k] as number, y = rows[k + 1] as number, gx = gain * (rows[k + 3] as number), gy = gain * (rows[k + 4] as number);
      const j = [gx, gy, gy * x - gx * y, gx * x + gy * y], e = gain * (rows[k + 2] as number) + offset - (rows[k + 5] as number);
      observe(system, j, e, weight);
    }
    const solved = solve(system);
    if (!solved) return m;
    const [dx = 0, dy = 0, turn = 0, grow = 0] = solved.map((v) => max(-20, min(20, v))), c = 1 + grow;
    m = multiply(multiply(shift(w / 2, h / 2), multiply([c, turn, -turn, c, dx, dy], shift(-w / 2, -h / 2))), m);
    if (abs(dx) + abs(dy) + (abs(turn) + abs(grow)) * max(w, h) < 0.003) break;
  }
  return m;
}

/** Adds one equation j · x = e to the normal equations of a least-squares problem with four unknowns. */
function observe(system: readonly Float64Array[], j: readonly number[], e: number, weight: number): void {
  for (let p = 0; p < 4; p++) {
    const line = system[p] as Float64Array;
    for (let q = 0; q < 4; q++) line[q] = (line[q] as number) + weight * (j[p] as number) * (j[q] as number);
    line[4] = (line[4] as number) + weight * (j[p] as number) * e;
  }
}

/** Gaussian elimination with pivots; undefined where there is no one solution. */
function solve(rows: readonly Float64Array[]): number[] | undefined {
  const n = rows.length, a = rows.map((r) => [...r]);
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

const PATCH = 32;
const COLUMNS = 9, ROWS = 7;

const lightAt = ({ width, data }: Bitmap, x: number, y: number): number => {
  const p = 4 * (y * width + x), { linear, lightness } = Tones, alpha = (data[p + 3] as number) / 255;
  const light = 0.2126 * (linear[data[p] as number] as number) + 0.7152 * (linear[data[p + 1] as number] as number) + 0.0722 * (linear[data[p + 2] as number] as number);
  return lightness[round(4096 * (1 - alpha * (1 - light)))] as number;
};

/** A piece of a picture as lightness. */
function piece(of: Bitmap, x0: number, y0: number, w: number, h: number): Grey {
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) out[y * w + x] = lightAt(of, min(of.width - 1, max(0, x0 + x)), min(of.height - 1, max(0, y0 + y)));
  return { width: w, height: h, data: out };
}

/** Corrects a matrix by how small patches at full size lie, each with detail in both directions. */
function byPatches(a: Bitmap, b: Bitmap, m: Matrix): Matrix {
  const back = inverse(m), moves: { x: number; y: number; dx: number; dy: number; weight: number }[] = [];
  // Where B is much smaller than A, its patches hold more than a piece of A of their size.
  if (!back || hypot(back[0], back[1]) > 1.6) return m;
  for (let r = 0; r < ROWS; r++) {
    for (let c = 0; c < COLUMNS; c++) {
      const spot = detailIn(b, floor((c * b.width) / COLUMNS), floor((r * b.height) / ROWS), floor(b.width / COLUMNS), floor(b.height / ROWS));
      const move = spot && patchMove(a, b, m, back, spot);
      if (move) moves.push(move);
    }
  }
  if (moves.length < 3) return m;
  const cx = b.width / 2, cy = b.height / 2;
  let weights = moves.map((v) => v.weight), fitted: number[] | undefined;
  for (let n = 0; n < 6; n++) {
    const system = Array.from({ length: 4 }, () => new Float64Array(5));
    moves.forEach((v, k) => {
      const x = v.x - cx, y = v.y - cy;
      for (const [j, e] of [[[1, 0, -y, x], v.dx], [[0, 1, x, y], v.dy]] as const) {
        observe(system, j, e, weights[k] as number);
      }
    });
    // Few patches, or all in one place, say nothing of turns.
    for (const k of [2, 3]) (system[k] as Float64Array)[k] = ((system[k] as Float64Array)[k] as number) + 1e-6;
    fitted = solve(system);
    if (!fitted) return m;
    const [dx = 0, dy = 0, turn = 0, grow = 0] = fitted;
    const errors = moves.map((v) => hypot(dx - turn * (v.y - cy) + grow * (v.x - cx) - v.dx, dy + turn * (v.x - cx) + grow * (v.y - cy) - v.dy)), sorted = [...errors].sort((p, q) => p - q), bound = 4 * max(0.02, sorted[sorted.length >> 1] as number);
    weights = moves.map((v, k) => ((errors[k] as number) < bound ? v.weight * (1 - ((errors[k] as number) / bound) ** 2) ** 2 : 0));
  }
  const [dx = 0, dy = 0, turn = 0, grow = 0] = fitted ?? [];
  return multiply(multiply(shift(cx, cy), multiply([1 + grow, turn, -turn, 1 + grow, dx, dy], shift(-cx, -cy))), m);
}

/** The spot of a cell with most detail across both directions, by the smaller eigenvalue of its gradients. */
function detailIn(b: Bitmap, x0: number, y0: number, w: number, h: number): { x: number; y: number; strength: number } | undefined {
  let best: { x: number; y: number; strength: number } | undefined;
  for (let ty = 0; ty < 4; ty++) {
    for (let tx = 0; tx < 4; tx++) {
      const x = round(x0 + ((tx + 0.5) * w) / 4), y = round(y0 + ((ty + 0.5) * h) / 4), half = PATCH >> 1;
      if (x < half + 2 || y < half + 2 || x > b.width - half - 3 || y > b.height - half - 3) continue;
      let xx = 0, yy = 0, xy = 0;
      for (let py = y - half; py < y + half; py += 2) {
        for (let px = x - half; px < x + half; px += 2) {
          const gx = lightAt(b, px + 1, py) - lightAt(b, px - 1, py), gy = lightAt(b, px, py + 1) - lightAt(b, px, py - 1);
          xx += gx * gx;
          yy += gy * gy;
          xy += gx * gy;
        }
      }
      const strength = (xx + yy) / 2 - sqrt(((xx - yy) / 2) ** 2 + xy * xy);
      if (strength > (best?.strength ?? 400)) best = { x, y, strength };
    }
  }
  return best;
}

function patchMove(a: Bitmap, b: Bitmap, m: Matrix, back: Matrix, spot: { x: number; y: number; strength: number }): { x: number; y: number; dx: number; dy: number; weight: number } | undefined {
  const half = PATCH >> 1, x0 = spot.x - half, y0 = spot.y - half, target = piece(b, x0, y0, PATCH, PATCH);
  const xs = [0, PATCH].flatMap((dx) => [0, PATCH].map((dy) => applyX(back, x0 + dx, y0 + dy))), ys = [0, PATCH].flatMap((dx) => [0, PATCH].map((dy) => applyY(back, x0 + dx, y0 + dy)));
  const ax = floor(min(...xs)) - 4, ay = floor(min(...ys)) - 4, aw = ceil(max(...xs)) + 4 - ax, ah = ceil(max(...ys)) + 4 - ay;
  if (ax < 0 || ay < 0 || ax + aw > a.width || ay + ah > a.height || aw * ah > 40_000) return undefined;
  const source = piece(a, ax, ay, aw, ah), local = multiply(shift(-x0, -y0), multiply(m, shift(ax, ay)));
  const start = multiply(local, identity), end = shiftOnly(source, target, start);
  if (!end || hypot(end[0], end[1]) > 3) return undefined;
  return { x: spot.x, y: spot.y, dx: end[0], dy: end[1], weight: sqrt(spot.strength) };
}

/** The shift that lays one piece over another, by Gauss–Newton steps; undefined where they are unlike. */
function shiftOnly(source: Grey, target: Grey, m: Matrix): readonly [number, number] | undefined {
  let dx = 0, dy = 0;
  for (let n = 0; n < 8; n++) {
    const back = inverse(multiply(shift(dx, dy), m));
    if (!back) return undefined;
    const at = (x: number, y: number): number => between(source, applyX(back, x, y) - 0.5, applyY(back, x, y) - 0.5);
    let xx = 0, yy = 0, xy = 0, xe = 0, ye = 0, n0 = 0, sv = 0, st = 0, svv = 0, stt = 0, svt = 0;
    const rows: number[] = [];
    for (let y = 0; y < target.height; y++) {
      for (let x = 0; x < target.width; x++) {
        const v = at(x + 0.5, y + 0.5), gx = (at(x + 1.5, y + 0.5) - at(x - 0.5, y + 0.5)) / 2, gy = (at(x + 0.5, y + 1.5) - at(x + 0.5, y - 0.5)) / 2, t = target.data[y * target.width + x] as number;
        if (isNaN(v + gx + gy)) continue;
        n0++;
        sv += v;
        st += t;
        svv += v * v;
        stt += t * t;
        svt += v * t;
        rows.push(v, gx, gy, t);
      }
    }
    if (n0 < 200) return undefined;
    const va = svv / n0 - (sv / n0) ** 2, vb = stt / n0 - (st / n0) ** 2, both = svt / n0 - (sv * st) / (n0 * n0);
    if (va < 0.2 || both / sqrt(va * (vb + 1e-6)) < 0.5) return undefined;
    const gain = both / va, offset = st / n0 - (gain * sv) / n0;
    for (let k = 0; k < rows.length; k += 4) {
      const gx = gain * (rows[k + 1] as number), gy = gain * (rows[k + 2] as number), e = gain * (rows[k] as number) + offset - (rows[k + 3] as number);
      xx += gx * gx;
      yy += gy * gy;
      xy += gx * gy;
      xe += gx * e;
      ye += gy * e;
    }
    const det = xx * yy - xy * xy;
    if (!(det > 1e-6)) return undefined;
    const sx = (yy * xe - xy * ye) / det, sy = (xx * ye - xy * xe) / det;
    dx += sx;
    dy += sy;
    if (abs(sx) + abs(sy) < 0.002) break;
  }
  return [dx, dy];
}

/** Whole numbers and exact sizes where the matrix is as good as that. */
function snapped(m: Matrix, a: Bitmap, b: Bitmap, asLarge: Matrix): Matrix {
  const corners = [[0, 0], [a.width, 0], [0, a.height], [a.width, a.height]] as const;
  const farthest = (n: Matrix): number => max(...corners.map(([x, y]) => hypot(applyX(m, x, y) - applyX(n, x, y), applyY(m, x, y) - applyY(n, x, y))));
  const cx = a.width / 2, cy = a.height / 2, dx = applyX(m, cx, cy) - cx, dy = applyY(m, cx, cy) - cy;
  const whole: Matrix[] = [identity, shift(round(dx), round(dy))];
  const exact = whole.find((n) => farthest(n) < STILL) ?? (hypot(dx, dy) < STILL && farthest(identity) < 5 * STILL ? identity : undefined);
  if (exact) return exact;
  const likely = [...(a.width === b.width && a.height === b.height ? [] : [asLarge]), ...flips(a, b)].find((n) => farthest(n) < 0.4 * max(1, hypot(m[0], m[1])));
  if (likely) return likely;
  const straight = shift(dx, dy);
  return farthest(straight) < STILL ? straight : m;
}
