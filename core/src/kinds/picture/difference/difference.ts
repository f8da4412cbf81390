/**
 * How much two pictures of one size differ, by squares of 4 × 4 pixels. Means of 2 × 2 pixels are compared by
 * CIEDE2000, so that smoothed edges and single noisy pixels count little. What is left over is set against the noise
 * that the two pictures have anyway where they are as busy: re-compression and re-sampling change everything a
 * little, mostly at edges.
 */
import { PAIR, words, type Bitmap } from '../../../raster/bitmap.ts';
import { withoutEdges } from './edges.ts';
import { deltaE, FAR, labInto, lightPart, nearDeltaE } from '../tone/lab.ts';
import { CELL, type DifferenceMap } from './difference-map.ts';
import { beyondNoise, levelsOf } from './noise.ts';
import type { Tone } from '../tone/tone.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, ceil, floor, max, min, round, sqrt } = Math;

/** Pairs with less noise are the same nearly everywhere. */
const QUIET = 0.05;
/** How much more than usual a square must differ where its mean stays. */
const TEXTURE = 1.7;

/** A colour map `tone` makes A's colours into B's first. */
export function differenceOf(
  a: Bitmap,
  b: Bitmap,
  covered: Uint8Array | undefined,
  tone: Tone | undefined,
): DifferenceMap {
  return tone || (b.width * b.height > SMALL && share(a, b) > FEW_DIFFER)
    ? noisyDifference(a, b, covered, tone)
    : quietDifference(a, b, covered);
}

/** The same of two pictures that have nothing in common: no noise is told from changes. */
export const plainDifferenceOf = (a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): DifferenceMap =>
  quietDifference(a, b, covered);

/** Up to this share of pixels differing there is no noise to be told from changes. */
const FEW_DIFFER = 0.015;

/** In pictures of so few pixels noise cannot be told. */
const SMALL = 1024;

/** Share of a sample of pixels that differ. */
function share(a: Bitmap, b: Bitmap): number {
  const wa = words(a);
  const wb = words(b);
  const step = max(1, floor(wb.length / 200_000)) | 1;
  let n = 0;
  let all = 0;
  for (let i = 0; i < wb.length; i += step, all++) if (wa[i] !== wb[i]) n++;
  return n / max(1, all);
}

/** Squares that are equal pixel for pixel are not looked at any further. */
function quietDifference(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): DifferenceMap {
  const { width, height } = b;
  const columns = max(1, ceil(width / CELL));
  const rows = max(1, ceil(height / CELL));
  const wa = words(a);
  const wb = words(b);
  const plain = new Float32Array(columns * rows);
  const shared = new Uint8Array(columns * rows).fill(1);
  const labA = new Float32Array(3);
  const labB = new Float32Array(3);
  for (let row = 0; row < rows; row++) {
    for (let y = row * CELL; y < min(height, (row + 1) * CELL); y++) {
      for (let i = y * width, x = 0; x < width; x++, i++) {
        if (covered && !covered[i]) shared[row * columns + (x >> 2)] = 0;
        if (wa[i] === wb[i]) continue;
        // The square of 2 × 2 pixels that it is in, once.
        const cell = row * columns + (x >> 2);
        const left = x & ~1;
        const above = y & ~1;
        const p = above * width + left;
        const right = left + 1 < width ? 1 : 0;
        const down = above + 1 < height ? width : 0;
        if ((x & 1 && wa[i - 1] !== wb[i - 1]) || (y & 1 && (wa[p] !== wb[p] || wa[p + right] !== wb[p + right])))
          continue;
        meanOf(
          wa[p] as number,
          wa[p + right] as number,
          wa[p + down] as number,
          wa[p + down + right] as number,
          labA,
          0,
        );
        meanOf(
          wb[p] as number,
          wb[p + right] as number,
          wb[p + down] as number,
          wb[p + down + right] as number,
          labB,
          0,
        );
        plain[cell] =
          (plain[cell] as number) +
          deltaE(
            labA[0] as number,
            labA[1] as number,
            labA[2] as number,
            labB[0] as number,
            labB[1] as number,
            labB[2] as number,
          ) **
            2;
      }
    }
  }
  for (let i = 0; i < plain.length; i++) if (plain[i]) plain[i] = shared[i] ? sqrt((plain[i] as number) / 4) : 0;
  return { columns, rows, plain, beyond: plain, shared, noise: 0, median: 0 };
}

function noisyDifference(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined, tone: Tone | undefined): DifferenceMap {
  const { width, height } = b;
  const columns = max(1, ceil(width / CELL));
  const rows = max(1, ceil(height / CELL));
  const count = columns * rows;
  const wa = words(a);
  const wb = words(b);
  const squares: Squares = {
    columns,
    plain: new Float32Array(count),
    busy: new Float32Array(count),
    light: new Float32Array(count),
    means: new Float32Array(count),
    signed: new Float32Array(6 * count),
  };
  const { plain, busy, light, means, signed } = squares;
  const shared = new Uint8Array(count).fill(1);
  const upper = quads(columns);
  let lower = quads(columns);
  let above = quads(columns);
  for (let row = 0; row < rows; row++) {
    const halves = min(2, ceil((height - row * CELL) / 2));
    for (let half = 0; half < halves; half++) {
      const into = half ? lower : upper;
      quadRow(wa, wb, width, height, row * CELL + half * 2, covered, into, shared, row * columns, tone !== undefined);
      if (tone) for (let at = 0; at < into.a.length; at += 3) tone.apply(into.a, at);
    }
    squareRow(squares, row, row ? above : undefined, upper, halves > 1 ? lower : undefined);
    [lower, above] = [above, lower];
  }
  for (let i = 0; i < plain.length; i++) plain[i] = shared[i] ? sqrt((plain[i] as number) / 4) : 0;
  const quantiles = spreadOf(plain, shared);
  const common = { columns, rows, plain, shared, ...quantiles };
  const levels = levelsOf(busy, light);
  const texture = beyondNoise(plain, levels, shared, columns, rows);
  if (quantiles.noise < QUIET) {
    const fine = beyondNoise(means, levels, shared, columns, rows);
    for (let i = 0; i < fine.length; i++) fine[i] = max(fine[i] as number, texture[i] as number);
    withoutEdges(fine, common, signed);
    return { ...common, beyond: fine };
  }
  // Noise cancels out within larger squares, paint does not; but a texture that was smoothed keeps its mean.
  const wide = windows(signed, columns, rows);
  const beyond = beyondNoise(wide, levels, shared, columns, rows);
  for (let i = 0; i < beyond.length; i++) {
    // Squares that only lie beside a change are not part of it.
    const own = (means[i] as number) < 0.4 * (wide[i] as number) ? 0 : (beyond[i] as number);
    beyond[i] = max(own, (texture[i] as number) / TEXTURE);
  }
  withoutEdges(beyond, common, signed);
  return { ...common, beyond };
}

/** L*, a*, b* of the means of 2 × 2 pixels of one row, in both pictures, and whether the pixels are the same. */
interface Quads {
  readonly a: Float32Array;
  readonly b: Float32Array;
  readonly equal: Uint8Array;
}

const quads = (columns: number): Quads => ({
  a: new Float32Array(6 * columns),
  b: new Float32Array(6 * columns),
  equal: new Uint8Array(2 * columns),
});

/**
 * What is gathered for each square: see DifferenceMap; how busy it is, how light, and the difference of its means,
 * also as L*, a*, b* with the means of B.
 */
interface Squares {
  readonly columns: number;
  readonly plain: Float32Array;
  readonly busy: Float32Array;
  readonly light: Float32Array;
  readonly means: Float32Array;
  readonly signed: Float32Array;
}

/**
 * One row of squares from its two rows of means (one at an odd lower edge) and the row above them. All sums stay in
 * variables, and what depends on the colour only is computed once a square: this is most of the time that a
 * comparison takes.
 */
function squareRow(
  { columns, plain, busy, light, means, signed }: Squares,
  row: number,
  above: Quads | undefined,
  upper: Quads,
  lower: Quads | undefined,
): void {
  const halves = lower ? 2 : 1;
  const n = 2 * halves;
  for (let x = 0; x < columns; x++) {
    const cell = row * columns + x;
    let lb = 0;
    let ab = 0;
    let bb = 0;
    for (let half = 0; half < halves; half++) {
      const { b } = half && lower ? lower : upper;
      const at = 6 * x;
      lb += (b[at] as number) + (b[at + 3] as number);
      ab += (b[at + 1] as number) + (b[at + 4] as number);
      bb += (b[at + 2] as number) + (b[at + 5] as number);
    }
    lb /= n;
    ab /= n;
    bb /= n;
    const chroma = sqrt(ab * ab + bb * bb);
    const u = chroma > 0.01 ? ab / chroma : 1;
    const v = chroma > 0.01 ? bb / chroma : 0;
    const perLight = lightPart(lb);
    const ofChroma = 1 / (1 + 0.045 * chroma);
    const ofHue = 1 / (1 + 0.015 * chroma);
    const perChroma = ofChroma * ofChroma;
    const perHue = ofHue * ofHue;
    let squared = 0;
    let dl = 0;
    let da = 0;
    let db = 0;
    let most = 0;
    let toLeft = 0;
    let toAbove = 0;
    for (let half = 0; half < halves; half++) {
      const here = half && lower ? lower : upper;
      const before = half ? upper : above;
      const { a, b, equal } = here;
      for (let q = 2 * x, end = q + 2; q < end; q++) {
        const at = 3 * q;
        const l1 = a[at] as number;
        const l2 = b[at] as number;
        if (!equal[q]) {
          const l = l1 - l2;
          const p = (a[at + 1] as number) - (b[at + 1] as number);
          const r = (a[at + 2] as number) - (b[at + 2] as number);
          const coloured = p * p + r * r;
          const w = u * p + v * r;
          const along = w * w;
          dl += l;
          da += p;
          db += r;
          squared +=
            l * l + coloured > FAR
              ? deltaE(l1, a[at + 1] as number, a[at + 2] as number, l2, b[at + 1] as number, b[at + 2] as number) ** 2
              : l * l * perLight + along * perChroma + (coloured - along) * perHue;
        }
        // How busy: steps of lightness to the neighbours, of the calmer picture.
        if (q > 0) {
          const step = min(abs(l1 - (a[at - 3] as number)), abs(l2 - (b[at - 3] as number)));
          if (step > most) most = step;
          if (!(q & 1) && step > toLeft) toLeft = step;
        }
        if (before) {
          const step = min(abs(l1 - (before.a[at] as number)), abs(l2 - (before.b[at] as number)));
          if (step > most) most = step;
          if (!half && step > toAbove) toAbove = step;
        }
      }
    }
    plain[cell] = squared;
    light[cell] = (lower ?? upper).b[6 * x + 3] as number;
    busy[cell] = most;
    if (x && toLeft > (busy[cell - 1] as number)) busy[cell - 1] = toLeft;
    if (row && toAbove > (busy[cell - columns] as number)) busy[cell - columns] = toAbove;
    dl /= n;
    da /= n;
    db /= n;
    if (squared) means[cell] = nearDeltaE(lb + dl, ab + da, bb + db, lb, ab, bb);
    const o = 6 * cell;
    signed[o] = dl;
    signed[o + 1] = da;
    signed[o + 2] = db;
    signed[o + 3] = lb;
    signed[o + 4] = ab;
    signed[o + 5] = bb;
  }
}

function spreadOf(plain: Float32Array, shared: Uint8Array): { noise: number; median: number } {
  const stride = max(1, floor(plain.length / 20_000)) | 1;
  const list: number[] = [];
  for (let i = 0; i < plain.length; i += stride) if (shared[i]) list.push(plain[i] as number);
  const sorted = Float32Array.from(list).sort();
  return { noise: sorted[floor(0.75 * sorted.length)] ?? 0, median: sorted[sorted.length >> 1] ?? 0 };
}

/** Differences of the means of 2 × 2 squares; each square has the largest of the four that it is in. */
function windows(signed: Float32Array, columns: number, rows: number): Float32Array {
  const out = new Float32Array(columns * rows);
  const sum = (p: number, q: number, r: number, t: number, c: number): number =>
    ((signed[6 * p + c] as number) +
      (signed[6 * q + c] as number) +
      (signed[6 * r + c] as number) +
      (signed[6 * t + c] as number)) /
    4;
  for (let y = 0; y < max(1, rows - 1); y++) {
    for (let x = 0; x < max(1, columns - 1); x++) {
      const i = y * columns + x;
      const right = x + 1 < columns ? 1 : 0;
      const down = y + 1 < rows ? columns : 0;
      const j = i + right;
      const k = i + down;
      const m = k + right;
      const l = sum(i, j, k, m, 0);
      const a = sum(i, j, k, m, 1);
      const b = sum(i, j, k, m, 2);
      if (abs(l) + abs(a) + abs(b) < 0.1) continue;
      const lb = sum(i, j, k, m, 3);
      const ab = sum(i, j, k, m, 4);
      const bb = sum(i, j, k, m, 5);
      const d = nearDeltaE(lb + l, ab + a, bb + b, lb, ab, bb);
      if (d > (out[i] as number)) out[i] = d;
      if (d > (out[j] as number)) out[j] = d;
      if (d > (out[k] as number)) out[k] = d;
      if (d > (out[m] as number)) out[m] = d;
    }
  }
  return out;
}

/** One row of means, from row `y` of the pixels on. */
function quadRow(
  wa: Uint32Array,
  wb: Uint32Array,
  width: number,
  height: number,
  y: number,
  covered: Uint8Array | undefined,
  { a, b, equal }: Quads,
  shared: Uint8Array,
  cells: number,
  always: boolean,
): void {
  const down = y + 1 < height ? width : 0;
  for (let q = 0, x = 0, at = 0; q < equal.length; q++, x += 2, at += 3) {
    const px = x < width ? x : width - 1;
    const p = y * width + px;
    const p1 = px + 1 < width ? p + 1 : p;
    const p2 = p + down;
    const p3 = p1 + down;
    if (covered && !(covered[p] && covered[p1] && covered[p2] && covered[p3])) shared[cells + (q >> 1)] = 0;
    const a0 = wa[p] as number;
    const a1 = wa[p1] as number;
    const a2 = wa[p2] as number;
    const a3 = wa[p3] as number;
    const b0 = wb[p] as number;
    const b1 = wb[p1] as number;
    const b2 = wb[p2] as number;
    const b3 = wb[p3] as number;
    const same = a0 === b0 && a1 === b1 && a2 === b2 && a3 === b3;
    equal[q] = same && !always ? 1 : 0;
    meanOf(b0, b1, b2, b3, b, at);
    if (same) {
      a[at] = b[at] as number;
      a[at + 1] = b[at + 1] as number;
      a[at + 2] = b[at + 2] as number;
    } else meanOf(a0, a1, a2, a3, a, at);
  }
}

/** L*, a*, b* of the mean of four pixels, of words as `words` gives them. Two channels are added up at a time. */
function meanOf(p: number, q: number, r: number, s: number, out: Float32Array, at: number): void {
  const reds = (p & PAIR) + (q & PAIR) + (r & PAIR) + (s & PAIR);
  const greens = ((p >>> 8) & PAIR) + ((q >>> 8) & PAIR) + ((r >>> 8) & PAIR) + ((s >>> 8) & PAIR);
  let red = reds & 0xffff;
  let green = greens & 0xffff;
  let blue = reds >>> 16;
  if (greens >>> 16 !== 1020) {
    red = onWhite(p, q, r, s, 0);
    green = onWhite(p, q, r, s, 8);
    blue = onWhite(p, q, r, s, 16);
  }
  labInto(out, at, mixedLight[red] as number, mixedLight[green] as number, mixedLight[blue] as number);
}

/** Sum of one channel of four pixels as the viewer shows them where they can be seen through. */
const onWhite = (p: number, q: number, r: number, s: number, shift: number): number =>
  round([p, q, r, s].reduce((sum, w) => sum + 255 + ((w >>> 24) * (((w >>> shift) & 255) - 255)) / 255, 0));

/**
 * Linear light of the mean of four sRGB bytes, by their sum: programs that compress, blur and resize mix bytes, not
 * light.
 */
const mixedLight = Float32Array.from({ length: 1021 }, (_, k) => {
  const v = k / 4 / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
});
