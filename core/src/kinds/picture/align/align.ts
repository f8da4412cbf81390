/**
 * Lays one picture over another. Candidates (as it is, resized, flipped, turned, shifted by phase correlation, turned
 * and scaled by log-polar spectra: Reddy and Chatterji 1996) are scored by local correlation, the best is refined by
 * Gauss–Newton steps (Lucas and Kanade 1981), from coarse to fine, and at last by patches at full size.
 */
import { applyX, applyY, identity, multiply, shift, type Matrix } from '../../../geometry/matrix.ts';
import { halved, lightnessOf, words, type Bitmap, type Grey } from '../../../raster/bitmap.ts';
import { chosen, flips, leastLeft, shifted, throughPyramid, turned } from './candidates.ts';
import { alikeInPlace, byPatches } from './patches.ts';
import { refined } from './refine.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, hypot, max, min, round, sqrt } = Math;

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
/**
 * Shifts smaller than this at every corner are none, in pixels; or than what cannot be told, which is not more than
 * so much.
 */
const STILL = 0.06;
const MOST_UNSURE = 1.2;

export function align(a: Bitmap, b: Bitmap): Alignment {
  if (sameInPlace(a, b)) return { matrix: identity, fit: 1, found: true };
  const alike = a.width === b.width && a.height === b.height ? alikeInPlace(a, b, STILL) : undefined;
  if (alike !== undefined) return { matrix: identity, fit: alike, found: true };
  // From fine to coarse, each half of the one before.
  const longest = max(a.width, a.height, b.width, b.height);
  const levels: { step: number; ga: Grey; gb: Grey }[] = [];
  let step = 1;
  while (longest / step > FINE) step *= 2;
  for (
    let ga = lightnessOf(a, step), gb = lightnessOf(b, step);
    ;
    [ga, gb, step] = [halved(ga), halved(gb), step * 2]
  ) {
    levels.push({ step, ga, gb });
    if (longest / step <= COARSE) break;
  }
  const { ga, gb } = levels.at(-1) as (typeof levels)[number];
  const scale = [1 / step, 0, 0, 1 / step, 0, 0] as const;
  const back = [step, 0, 0, step, 0, 0] as const;
  const coarse = (m: Matrix): Matrix => multiply(scale, multiply(m, back));
  const full = (m: Matrix): Matrix => multiply(back, multiply(m, scale));
  const asLarge: Matrix = [b.width / a.width, 0, 0, b.height / a.height, 0, 0];
  const resized = a.width !== b.width || a.height !== b.height;
  // Whoever cuts off or adds something does so at one side, or around the middle.
  const aside = resized
    ? [0, 0.5, 1]
        .flatMap((u) => [0, 0.5, 1].map((v) => shift(round(u * (b.width - a.width)), round(v * (b.height - a.height)))))
        .filter((m) => m[4] || m[5])
    : [];
  const plain = [identity, ...(resized ? [asLarge] : [])].map(coarse);
  const cut = aside.map(coarse);
  const candidates = chosen(ga, gb, [
    () => [...plain, ...cut],
    () => [...shifted(ga, gb, plain), ...plain.map((m) => throughPyramid(ga, gb, m))],
    () => flips(a, b).map(coarse),
    () => turned(ga, gb),
  ]);
  const [best] = candidates;
  if (!resized && (best?.fit ?? 0) < CLEAR && alikeFromAfar(ga, gb))
    return { matrix: identity, fit: best?.fit ?? 0, found: true };
  if (!best || best.fit < CLEAR) return { matrix: resized ? asLarge : identity, fit: best?.fit ?? 0, found: false };
  const sharper = (m: Matrix, through: typeof levels): Matrix =>
    through.reduce((at, level) => {
      const up = [1 / level.step, 0, 0, 1 / level.step, 0, 0] as const;
      const down = [level.step, 0, 0, level.step, 0, 0] as const;
      return multiply(down, multiply(refined(level.ga, level.gb, multiply(up, multiply(at, down))), up));
    }, m);
  const finer = levels.slice(0, -1).reverse();
  const next = finer.slice(0, 1);
  const [level] = next;
  // A step more sharply seen it shows which of several is right; only that is seen through to the end.
  const rightOf = (): Parameters<typeof sharper>[0] => {
    if (!level) return full(refined(ga, gb, best.m));
    if (candidates.length === 1) return sharper(full(best.m), next);
    return leastLeft(
      candidates.map((c) => sharper(full(c.m), next)),
      level,
    );
  };
  const right = rightOf();
  const fine = sharper(right, finer.slice(1));
  const exact = pixelForPixel(a, b, fine);
  if (exact) return { matrix: exact, fit: best.fit, found: true };
  const { matrix, unsure } = byPatches(a, b, fine);
  return {
    matrix: snapped(matrix, a, b, asLarge, max(STILL, min(MOST_UNSURE, 4 * unsure))),
    fit: best.fit,
    found: true,
  };
}

/** Pictures that fit less have too little in common; unless they look alike from far away, where grain is not seen. */
const CLEAR = 0.35;
const FROM_AFAR = 0.9;
/** Longest side of a picture seen from afar. */
const AFAR = 24;

function alikeFromAfar(ga: Grey, gb: Grey): boolean {
  let [p, q] = [ga, gb];
  while (max(p.width, p.height) > AFAR) [p, q] = [halved(p), halved(q)];
  const mean = ({ data }: Grey): number => data.reduce((sum, v) => sum + v, 0) / data.length;
  const [mp, mq] = [mean(p), mean(q)];
  let pp = 0;
  let qq = 0;
  let pq = 0;
  for (let k = 0; k < p.data.length; k++) {
    const u = (p.data[k] as number) - mp;
    const v = (q.data[k] as number) - mq;
    pp += u * u;
    qq += v * v;
    pq += u * v;
  }
  // Plain areas have nothing to agree in.
  return min(pp, qq) > p.data.length && pq > FROM_AFAR * sqrt(pp * qq);
}

/**
 * Whether nothing was moved as a whole: edges, or failing those most other detail, are where they were, pixel for
 * pixel.
 */
function sameInPlace(a: Bitmap, b: Bitmap): boolean {
  if (a.width !== b.width || a.height !== b.height) return false;
  const p = words(a);
  const q = words(b);
  const n = p.length;
  const stride = max(1, floor(n / 60_000)) | 1;
  let edges = 0;
  let sameEdges = 0;
  let detailed = 0;
  let same = 0;
  let differing = 0;
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
  return (
    differing === 0 ||
    (edges > 12 && sameEdges > (edges > 200 ? 0.3 : 0.6) * edges) ||
    (detailed > 200 && same > 0.7 * detailed)
  );
}

/** Pixels with detail that are looked at, how far around, and the share of them that must be the same. */
const LOOKED_AT = 4000;
const AROUND = 2;
const SAME = 0.6;

/** The shift by whole pixels near a matrix that leaves most detail pixel for pixel, as cropping and pasting do. */
function pixelForPixel(a: Bitmap, b: Bitmap, m: Matrix): Matrix | undefined {
  const cx = b.width / 2;
  const cy = b.height / 2;
  const dx = round(applyX(m, cx, cy) - cx);
  const dy = round(applyY(m, cx, cy) - cy);
  if (farthestApart(m, shift(dx, dy), a) > 2 * AROUND) return undefined;
  const p = words(a);
  const q = words(b);
  const spots: number[] = [];
  const stride = max(1, floor(q.length / 400_000)) | 1;
  for (let i = 1; i < q.length && spots.length < 40 * LOOKED_AT; i += stride)
    if (i % b.width && apart(q[i] as number, q[i - 1] as number) >= EDGE) spots.push(i);
  const every = max(1, floor(spots.length / LOOKED_AT));
  let most = 0;
  let best: Matrix | undefined;
  for (let sy = dy - AROUND; sy <= dy + AROUND; sy++) {
    for (let sx = dx - AROUND; sx <= dx + AROUND; sx++) {
      let same = 0;
      let seen = 0;
      for (let k = 0; k < spots.length; k += every) {
        const i = spots[k] as number;
        const x = i % b.width;
        const px = x - sx;
        const py = (i - x) / b.width - sy;
        if (px < 1 || py < 0 || px >= a.width || py >= a.height) continue;
        seen++;
        const j = py * a.width + px;
        if (p[j] === q[i] && p[j - 1] === q[i - 1]) same++;
      }
      if (seen > 40 && same > SAME * seen && same > most) [most, best] = [same, shift(sx, sy)];
    }
  }
  return best;
}

/** How far the corners of a picture lie apart under two matrices. */
const farthestApart = (m: Matrix, n: Matrix, { width, height }: Bitmap): number =>
  max(
    ...(
      [
        [0, 0],
        [width, 0],
        [0, height],
        [width, height],
      ] as const
    ).map(([x, y]) => hypot(applyX(m, x, y) - applyX(n, x, y), applyY(m, x, y) - applyY(n, x, y))),
  );

/** How far two colours are from one another, channels added up. */
const apart = (p: number, q: number): number =>
  abs((p & 255) - (q & 255)) + abs(((p >> 8) & 255) - ((q >> 8) & 255)) + abs(((p >> 16) & 255) - ((q >> 16) & 255));
const EDGE = 24;

/** Whole numbers and exact sizes where the matrix is as good as that. */
function snapped(m: Matrix, a: Bitmap, b: Bitmap, asLarge: Matrix, still: number): Matrix {
  const farthest = (n: Matrix): number => farthestApart(m, n, a);
  const cx = a.width / 2;
  const cy = a.height / 2;
  const dx = applyX(m, cx, cy) - cx;
  const dy = applyY(m, cx, cy) - cy;
  const whole: Matrix[] = [identity, shift(round(dx), round(dy))];
  const exact =
    whole.find((n) => farthest(n) < still) ??
    (hypot(dx, dy) < still && farthest(identity) < 5 * still ? identity : undefined);
  if (exact) return exact;
  const likely = [...(a.width === b.width && a.height === b.height ? [] : [asLarge]), ...flips(a, b)].find(
    (n) => farthest(n) < 0.4 * max(1, hypot(m[0], m[1])),
  );
  if (likely) return likely;
  const straight = shift(dx, dy);
  return farthest(straight) < still ? straight : m;
}
