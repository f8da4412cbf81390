/** One picture as another sees it: drawn anew through a matrix. */
import { applyX, applyY, identity, inverse, type Matrix } from '../../../geometry/matrix.ts';
import { words, type Bitmap } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, hypot, max, min, round } = Math;

export interface Warped {
  readonly bitmap: Bitmap;
  /** 1 for pixels that the picture covers; undefined where it covers all. */
  readonly covered: Uint8Array | undefined;
}

/** True for matrices that only move by whole pixels, flip or turn by quarters: no colour is mixed. */
export const isExact = (m: Matrix): boolean => m.every(Number.isInteger) && abs(m[0] * m[3] - m[1] * m[2]) === 1;

/**
 * `to` gives the size of the page that is drawn on. Colours between pixels are mixed by a cubic (Keys 1981), smaller
 * pictures by means.
 */
export function warp(source: Bitmap, m: Matrix, to: { readonly width: number; readonly height: number }): Warped {
  if (m.every((v, k) => v === identity[k]) && source.width === to.width && source.height === to.height)
    return { bitmap: source, covered: undefined };
  if (isExact(m)) return exact(source, m, to);
  let from = source;
  let matrix = m;
  // Means of four before a picture is made much smaller, so that no pixel is passed over.
  while (
    hypot(matrix[0], matrix[1]) < 0.67 &&
    hypot(matrix[2], matrix[3]) < 0.67 &&
    from.width > 1 &&
    from.height > 1
  ) {
    from = half(from);
    matrix = [matrix[0] * 2, matrix[1] * 2, matrix[2] * 2, matrix[3] * 2, matrix[4], matrix[5]];
  }
  return matrix[1] === 0 && matrix[2] === 0 ? straight(from, matrix, to) : mixed(from, matrix, to);
}

function exact(
  source: Bitmap,
  m: Matrix,
  { width, height }: { readonly width: number; readonly height: number },
): Warped {
  const back = inverse(m) as Matrix;
  const out = new Uint32Array(width * height);
  const covered = new Uint8Array(width * height);
  const from = words(source);
  let all = true;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sx = floor(applyX(back, x + 0.5, y + 0.5));
      const sy = floor(applyY(back, x + 0.5, y + 0.5));
      if (sx < 0 || sy < 0 || sx >= source.width || sy >= source.height) {
        all = false;
        continue;
      }
      out[y * width + x] = from[sy * source.width + sx] as number;
      covered[y * width + x] = 1;
    }
  }
  return { bitmap: { width, height, data: new Uint8Array(out.buffer) }, covered: all ? undefined : covered };
}

/** Weights of the four pixels around, by the 64th of a pixel. */
const weights = Float32Array.from({ length: 65 * 4 }, (_, k) => {
  const t = abs((k >> 2) / 64 + 1 - (k & 3));
  if (t <= 1) return 1.5 * t ** 3 - 2.5 * t ** 2 + 1;
  if (t < 2) return -0.5 * t ** 3 + 2.5 * t ** 2 - 4 * t + 2;
  return 0;
});

/**
 * Where the pixels of a row or column come from: the first of four, and the 64th of a pixel; −1 for what lies beyond.
 */
function places(count: number, scale: number, offset: number, of: number): { first: Int32Array; weight: Int32Array } {
  const first = new Int32Array(count).fill(-1);
  const weight = new Int32Array(count);
  for (let k = 0; k < count; k++) {
    const at = (k + 0.5 - offset) / scale - 0.5;
    if (at < -0.5 || at > of - 0.5) continue;
    first[k] = floor(at) + 1;
    weight[k] = 4 * round((at - floor(at)) * 64);
  }
  return { first, weight };
}

/**
 * The same as `mixed` for pictures that are only resized, flipped and shifted: along the rows first, then down the
 * columns.
 */
function straight(
  source: Bitmap,
  m: Matrix,
  { width, height }: { readonly width: number; readonly height: number },
): Warped {
  const { data, width: sw, height: sh } = source;
  const out = new Uint8ClampedArray(width * height * 4);
  const covered = new Uint8Array(width * height);
  const across = places(width, m[0], m[4], sw);
  const down = places(height, m[3], m[5], sh);
  // Rows of the source, made as wide as they become; only the last few are needed.
  const kept = Array.from({ length: 8 }, () => ({ row: -1, values: new Float32Array(4 * width) }));
  const widened = (row: number): Float32Array => {
    const place = kept[row & 7] as (typeof kept)[number];
    if (place.row === row) return place.values;
    place.row = row;
    const { values } = place;
    const base = row * sw;
    for (let x = 0; x < width; x++) {
      const f = across.first[x] as number;
      if (f < 0) continue;
      const w = across.weight[x] as number;
      const w0 = weights[w] as number;
      const w1 = weights[w + 1] as number;
      const w2 = weights[w + 2] as number;
      const w3 = weights[w + 3] as number;
      // `first` counts from 1, so that the pixel before the first is 0.
      const p0 = 4 * (base + max(0, f - 2));
      const p1 = 4 * (base + min(sw - 1, max(0, f - 1)));
      const p2 = 4 * (base + min(sw - 1, f));
      const p3 = 4 * (base + min(sw - 1, f + 1));
      const at = 4 * x;
      for (let c = 0; c < 4; c++)
        values[at + c] =
          w0 * (data[p0 + c] as number) +
          w1 * (data[p1 + c] as number) +
          w2 * (data[p2 + c] as number) +
          w3 * (data[p3 + c] as number);
    }
    return values;
  };
  let all = true;
  for (let y = 0; y < height; y++) {
    const f = down.first[y] as number;
    if (f < 0) {
      all = false;
      continue;
    }
    const w = down.weight[y] as number;
    const w0 = weights[w] as number;
    const w1 = weights[w + 1] as number;
    const w2 = weights[w + 2] as number;
    const w3 = weights[w + 3] as number;
    const r0 = widened(min(sh - 1, max(0, f - 2)));
    const r1 = widened(min(sh - 1, max(0, f - 1)));
    const r2 = widened(min(sh - 1, f));
    const r3 = widened(min(sh - 1, f + 1));
    for (let x = 0, at = 4 * y * width; x < width; x++, at += 4) {
      if ((across.first[x] as number) < 0) {
        all = false;
        continue;
      }
      for (let c = 0, k = 4 * x; c < 4; c++, k++)
        out[at + c] = w0 * (r0[k] as number) + w1 * (r1[k] as number) + w2 * (r2[k] as number) + w3 * (r3[k] as number);
      covered[y * width + x] = 1;
    }
  }
  return { bitmap: { width, height, data: out }, covered: all ? undefined : covered };
}

function mixed(
  source: Bitmap,
  m: Matrix,
  { width, height }: { readonly width: number; readonly height: number },
): Warped {
  const back = inverse(m);
  const out = new Uint8ClampedArray(width * height * 4);
  const covered = new Uint8Array(width * height);
  const { data, width: sw, height: sh } = source;
  let all = true;
  if (!back) return { bitmap: { width, height, data: out }, covered };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const px = back[0] * (x + 0.5) + back[2] * (y + 0.5) + back[4] - 0.5;
      const py = back[1] * (x + 0.5) + back[3] * (y + 0.5) + back[5] - 0.5;
      if (px < -0.5 || py < -0.5 || px > sw - 0.5 || py > sh - 0.5) {
        all = false;
        continue;
      }
      const x0 = floor(px);
      const y0 = floor(py);
      const wx = 4 * round((px - x0) * 64);
      const wy = 4 * round((py - y0) * 64);
      const at = 4 * (y * width + x);
      let r = 0;
      let g = 0;
      let b = 0;
      let o = 0;
      for (let j = 0; j < 4; j++) {
        const weightY = weights[wy + j] as number;
        const row = min(sh - 1, max(0, y0 - 1 + j)) * sw;
        for (let i = 0; i < 4; i++) {
          const p = 4 * (row + min(sw - 1, max(0, x0 - 1 + i)));
          const weight = weightY * (weights[wx + i] as number);
          r += weight * (data[p] as number);
          g += weight * (data[p + 1] as number);
          b += weight * (data[p + 2] as number);
          o += weight * (data[p + 3] as number);
        }
      }
      out[at] = r;
      out[at + 1] = g;
      out[at + 2] = b;
      out[at + 3] = o;
      covered[y * width + x] = 1;
    }
  }
  return { bitmap: { width, height, data: out }, covered: all ? undefined : covered };
}

function half({ width, height, data }: Bitmap): Bitmap {
  const w = width >> 1;
  const h = height >> 1;
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const p = 4 * (2 * y * width + 2 * x);
      const q = p + 4 * width;
      const at = 4 * (y * w + x);
      for (let c = 0; c < 4; c++)
        out[at + c] =
          ((data[p + c] as number) +
            (data[p + 4 + c] as number) +
            (data[q + c] as number) +
            (data[q + 4 + c] as number) +
            2) >>
          2;
    }
  }
  return { width: w, height: h, data: out };
}
