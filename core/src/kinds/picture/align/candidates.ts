/**
 * Ways in which one picture may lie on another (resized, flipped, shifted by phase correlation, turned and scaled by
 * log-polar spectra: Reddy and Chatterji 1996), and which of them is right.
 */
import { applyX, applyY, identity, inverse, multiply, shift, type Matrix } from '../../../geometry/matrix.ts';
import { between, halved, type Bitmap, type Grey } from '../../../raster/bitmap.ts';
import { logPolar, shifts, Spectrum, squared } from './fourier.ts';
import { fitOf, refined } from './refine.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, cos, max, min, sin } = Math;
const { isNaN } = Number;

const SQUARE = 256;
/** A fit that needs no other tries; and one that cannot be that of a repeated pattern a period away. */
const GOOD = 0.9;
const CERTAIN = 0.99;

export interface Fitted {
  readonly m: Matrix;
  readonly fit: number;
}

/** Fits within this of the best are told apart by what is left over, seen more sharply; and so many of them at most. */
const CLOSE = 0.08;
const MOST_CLOSE = 6;
/** Pixels of the coarse pictures that two candidates are apart. */
const APART = 1.5;

/** The best fit, and those that fit nearly as well elsewhere: where a pattern repeats, many do. */
function likeliest(tried: readonly Fitted[], { width, height }: Grey): Fitted[] {
  const sorted = [...tried].sort((p, q) => q.fit - p.fit);
  const out: Fitted[] = [];
  const [best] = sorted;
  const corners = ({ m }: Fitted): number[] =>
    [
      [0, 0],
      [width, height],
    ].flatMap(([x = 0, y = 0]) => [applyX(m, x, y), applyY(m, x, y)]);
  for (const one of sorted) {
    if (!best || one.fit < best.fit - CLOSE || (out.length && one.fit < 0.35) || out.length >= MOST_CLOSE) break;
    if (out.every((o) => corners(o).some((v, k) => abs(v - (corners(one)[k] as number)) > APART))) out.push(one);
  }
  return out;
}

/** The first, unless another leaves much less over. */
export function leastLeft(
  matrices: readonly Matrix[],
  { ga, gb, step }: { readonly ga: Grey; readonly gb: Grey; readonly step: number },
): Matrix {
  const up = [1 / step, 0, 0, 1 / step, 0, 0] as const;
  const down = [step, 0, 0, step, 0, 0] as const;
  const left = matrices.map((m) => residualOf(ga, gb, multiply(up, multiply(m, down))));
  const least = left.indexOf(min(...left));
  return matrices[(left[least] as number) < 0.85 * (left[0] as number) ? least : 0] as Matrix;
}

/** Mean difference of lightness where both are, less what all of it differs by. */
function residualOf(ga: Grey, gb: Grey, m: Matrix): number {
  const back = inverse(m);
  const list: number[] = [];
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
export function throughPyramid(ga: Grey, gb: Grey, start: Matrix): Matrix {
  const levels: { ga: Grey; gb: Grey; k: number }[] = [{ ga, gb, k: 1 }];
  for (let last = levels[0] as (typeof levels)[number]; max(last.gb.width, last.gb.height) > BLURRED; levels.push(last))
    last = { ga: halved(last.ga), gb: halved(last.gb), k: last.k * 2 };
  return levels.reverse().reduce((m, level) => {
    const down = [1 / level.k, 0, 0, 1 / level.k, 0, 0] as const;
    const up = [level.k, 0, 0, level.k, 0, 0] as const;
    return multiply(up, multiply(refined(level.ga, level.gb, multiply(down, multiply(m, up))), down));
  }, start);
}

/** Candidates are only told from one another: fewer pixels do. */
const SCREENING = { steps: 8, samples: 7_000 };

/**
 * The best of several kinds of candidates; after the second kind, later ones are not tried where one fits well. The
 * likeliest first.
 */
export function chosen(ga: Grey, gb: Grey, kinds: readonly (() => readonly Matrix[])[]): Fitted[] {
  const tried: Fitted[] = [{ m: identity, fit: 0 }];
  for (const [k, kind] of kinds.entries()) {
    const scored = kind()
      .map((m) => ({ m, fit: fitOf(ga, gb, m) }))
      .sort((p, q) => q.fit - p.fit)
      .slice(0, k === 1 ? 5 : 3);
    tried.push(...scored.map(({ m }) => refined(ga, gb, m, SCREENING)).map((m) => ({ m, fit: fitOf(ga, gb, m) })));
    if (tried.some((t) => t.fit > (k ? GOOD : CERTAIN))) break;
  }
  return likeliest(tried, ga);
}

export function flips(a: Bitmap, b: Bitmap): Matrix[] {
  const { width: w, height: h } = a;
  const out: Matrix[] = [
    [-1, 0, 0, 1, w, 0],
    [1, 0, 0, -1, 0, h],
    [-1, 0, 0, -1, w, h],
  ];
  const sx = b.width / w;
  const sy = b.height / h;
  const upright = out.map((m) => multiply([sx, 0, 0, sy, 0, 0], m));
  // Quarter turns, which exchange width and height.
  const tx = b.width / h;
  const ty = b.height / w;
  const quarters: Matrix[] = [
    [0, 1, -1, 0, h, 0],
    [0, -1, 1, 0, 0, w],
    [0, 1, 1, 0, 0, 0],
    [0, -1, -1, 0, h, w],
  ];
  return [...upright, ...quarters.map((m) => multiply([tx, 0, 0, ty, 0, 0], m))];
}

/** Each of the matrices, followed by the shift that phase correlation finds. */
export function shifted(ga: Grey, gb: Grey, bases: readonly Matrix[]): Matrix[] {
  const to = Spectrum.of(squared(within(gb, identity, SQUARE), SQUARE), SQUARE);
  return bases.flatMap((base) => {
    const from = Spectrum.of(squared(within(ga, base, SQUARE), SQUARE), SQUARE);
    const k = max(gb.width, gb.height, 1) / SQUARE;
    return shifts(from, to, 5).map(({ dx, dy }) => multiply(shift(dx * k, dy * k), base));
  });
}

/** A grey picture through a matrix, in a square that holds B's page. */
function within(g: Grey, m: Matrix, size: number, longest = max(g.width, g.height)): Grey {
  const k = longest / size;
  const out = new Float32Array(size * size);
  const back = inverse(m);
  let mean = 0;
  for (const v of g.data) mean += v;
  mean /= g.data.length || 1;
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      const px = (x + 0.5) * k;
      const py = (y + 0.5) * k;
      const v = back ? between(g, applyX(back, px, py) - 0.5, applyY(back, px, py) - 0.5) : NaN;
      out[y * size + x] = isNaN(v) ? mean : v;
    }
  }
  return { width: size, height: size, data: out };
}

/** Turns and scalings from the spectra, each with its shift. */
export function turned(ga: Grey, gb: Grey): Matrix[] {
  const longest = max(ga.width, ga.height, gb.width, gb.height);
  const a = Spectrum.of(squared(within(ga, identity, SQUARE, longest), SQUARE), SQUARE);
  const to = within(gb, identity, SQUARE, longest);
  const b = Spectrum.of(squared(to, SQUARE), SQUARE);
  const pa = logPolar(a);
  const pb = logPolar(b);
  const k = longest / SQUARE;
  const ends = Spectrum.of(squared(to, SQUARE), SQUARE);
  return shifts(Spectrum.of(pa.square, SQUARE), Spectrum.of(pb.square, SQUARE), 3).flatMap(({ dx, dy }) => {
    const angle = (PI * dy) / SQUARE;
    const s = pa.ratio ** -dx;
    if (s < 0.3 || s > 3.3) return [];
    return [angle, angle + PI].flatMap((turn) => {
      const cx = ga.width / 2;
      const cy = ga.height / 2;
      const c = cos(turn) * s;
      const n = sin(turn) * s;
      const about = multiply(shift(gb.width / 2, gb.height / 2), multiply([c, n, -n, c, 0, 0], shift(-cx, -cy)));
      const from = Spectrum.of(squared(within(ga, about, SQUARE, longest), SQUARE), SQUARE);
      return shifts(from, ends, 1).map((p) => multiply(shift(p.dx * k, p.dy * k), about));
    });
  });
}
