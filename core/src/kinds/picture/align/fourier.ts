// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- the package has no types of its own
/// <reference path="./fft.d.ts" />
/**
 * Two-dimensional Fourier transforms of squares whose side is a power of two, and phase correlation (Kuglin and Hines
 * 1975).
 */
import FFT from 'fft.js';
import type { Grey } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, cos, exp, floor, log, log1p, max, min, sin, sqrt } = Math;

/** Complex values, real and imaginary part one after the other, rows from the top. */
export class Spectrum {
  readonly size: number;
  readonly values: Float64Array;

  constructor(size: number, values: Float64Array) {
    this.size = size;
    this.values = values;
  }

  static of(square: Float32Array, size: number): Spectrum {
    const values = new Float64Array(2 * size * size);
    for (let i = 0; i < size * size; i++) values[2 * i] = square[i] as number;
    return new Spectrum(size, transformed(values, size, false));
  }
}

function transformed(values: Float64Array, size: number, back: boolean): Float64Array {
  const fft = new FFT(size);
  const line = fft.createComplexArray();
  const out = fft.createComplexArray();
  const run = (): void => (back ? fft.inverseTransform(out, line) : fft.transform(out, line));
  for (let y = 0; y < size; y++) {
    const at = 2 * y * size;
    for (let k = 0; k < 2 * size; k++) line[k] = values[at + k] as number;
    run();
    for (let k = 0; k < 2 * size; k++) values[at + k] = out[k] as number;
  }
  for (let x = 0; x < size; x++) {
    for (let y = 0; y < size; y++) {
      line[2 * y] = values[2 * (y * size + x)] as number;
      line[2 * y + 1] = values[2 * (y * size + x) + 1] as number;
    }
    run();
    for (let y = 0; y < size; y++) {
      values[2 * (y * size + x)] = out[2 * y] as number;
      values[2 * (y * size + x) + 1] = out[2 * y + 1] as number;
    }
  }
  return values;
}

export interface Peak {
  /** How far the second picture's content lies from the first's. */
  readonly dx: number;
  readonly dy: number;
  /** 1 for pictures that are the same but for their place; near 0 for unlike ones. */
  readonly height: number;
}

/** The strongest shifts between two squares, best first; to a fraction of a pixel. */
export function shifts(a: Spectrum, b: Spectrum, most = 1): Peak[] {
  const { size } = a;
  const n = size * size;
  const cross = new Float64Array(2 * n);
  for (let i = 0; i < n; i++) {
    const ar = a.values[2 * i] as number;
    const ai = a.values[2 * i + 1] as number;
    const br = b.values[2 * i] as number;
    const bi = b.values[2 * i + 1] as number;
    const re = br * ar + bi * ai;
    const im = bi * ar - br * ai;
    const length = sqrt(re * re + im * im) + 1e-9;
    cross[2 * i] = re / length;
    cross[2 * i + 1] = im / length;
  }
  const values = transformed(cross, size, true);
  const at = (x: number, y: number): number => values[2 * (((y + size) % size) * size + ((x + size) % size))] as number;
  const out: Peak[] = [];
  const taken: [number, number][] = [];
  while (out.length < most) {
    let best = -Infinity;
    let bx = 0;
    let by = 0;
    for (let y = 0; y < size; y++) {
      for (let x = 0; x < size; x++) {
        const v = values[2 * (y * size + x)] as number;
        if (v > best && !taken.some(([tx, ty]) => abs(tx - x) < 3 && abs(ty - y) < 3)) [best, bx, by] = [v, x, y];
      }
    }
    taken.push([bx, by]);
    const part = (before: number, here: number, after: number): number =>
      (after > before ? after / (after + here) : -before / (before + here)) || 0;
    const dx = bx + part(max(0, at(bx - 1, by)), best, max(0, at(bx + 1, by)));
    const dy = by + part(max(0, at(bx, by - 1)), best, max(0, at(bx, by + 1)));
    out.push({ dx: dx > size / 2 ? dx - size : dx, dy: dy > size / 2 ? dy - size : dy, height: best });
  }
  return out;
}

/**
 * A grey picture in the middle of a square of its mean, faded out towards its edges, so that they are not seen as
 * lines.
 */
export function squared(grey: Grey, size: number): Float32Array {
  const { width, height, data } = grey;
  const out = new Float32Array(size * size);
  const w = min(width, size);
  const h = min(height, size);
  const x0 = (size - w) >> 1;
  const y0 = (size - h) >> 1;
  let mean = 0;
  for (const v of data) mean += v;
  mean /= data.length || 1;
  const fade = (k: number, n: number): number => 0.5 - 0.5 * cos((2 * PI * (k + 0.5)) / n);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      out[(y + y0) * size + x + x0] = ((data[y * width + x] as number) - mean) * fade(x, w) * fade(y, h);
  return out;
}

/**
 * Strengths of frequencies by direction (rows, half a turn) and logarithm of their number (columns): turns and
 * scalings become shifts.
 */
export function logPolar(spectrum: Spectrum): { square: Float32Array; ratio: number } {
  const { size, values } = spectrum;
  const out = new Float32Array(size * size);
  const most = size / 2;
  const ratio = exp(log(most) / size);
  const strength = (x: number, y: number): number => {
    const i = 2 * (((y + size) % size) * size + ((x + size) % size));
    return log1p(sqrt((values[i] as number) ** 2 + (values[i + 1] as number) ** 2));
  };
  for (let row = 0; row < size; row++) {
    const angle = (PI * row) / size;
    const c = cos(angle);
    const s = sin(angle);
    for (let k = 0; k < size; k++) {
      const r = ratio ** k;
      const fx = r * c;
      const fy = r * s;
      const x = floor(fx);
      const y = floor(fy);
      const px = fx - x;
      const py = fy - y;
      const value =
        (strength(x, y) * (1 - px) + strength(x + 1, y) * px) * (1 - py) +
        (strength(x, y + 1) * (1 - px) + strength(x + 1, y + 1) * px) * py;
      // Low frequencies say little of shape.
      out[row * size + k] = value * sin((PI * k) / size);
    }
  }
  let mean = 0;
  for (const v of out) mean += v;
  mean /= out.length;
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) - mean;
  return { square: out, ratio };
}
