/**
 * What was done to red, green and blue alike everywhere: brightness, contrast, gamma, levels, white balance, a
 * negative. Each channel after is a power of the one before, times a factor, plus an offset, cut off at black and
 * white. Found robustly, so that repainted places do not count.
 */
import type { Bitmap } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, max, min, round } = Math;

/** For each channel, what a byte of A became. */
export type Channels = readonly [Uint8Array, Uint8Array, Uint8Array];

const POWERS = [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.25, 1.4, 1.6, 1.8, 2.1, 2.5];

/** Samples that are looked at. */
const SAMPLES = 4000;

/** `all`: means of red, green and blue of A and then of B (0 to 255), six numbers a sample. */
export function channelsBetween(all: Float32Array): Channels {
  const every = max(1, floor(all.length / 6 / SAMPLES));
  const n = floor(all.length / 6 / every);
  const pairs = new Float32Array(6 * n);
  const curve = (c: number): Uint8Array => {
    // Straight, unless a curve is clearly better: few colours can be had by many curves.
    let best = fit(pairs, n, c, 1);
    for (const power of POWERS) {
      const fitted = fit(pairs, n, c, power);
      if (fitted && (!best || fitted.error < 0.8 * best.error - 0.02)) best = fitted;
    }
    return Uint8Array.from({ length: 256 }, (_, v) =>
      best ? byte(best.offset + best.factor * (v / 255) ** best.power) : v,
    );
  };
  for (let k = 0; k < n; k++) pairs.set(all.subarray(6 * k * every, 6 * k * every + 6), 6 * k);
  return [curve(0), curve(1), curve(2)];
}

interface Fitted {
  readonly power: number;
  readonly factor: number;
  readonly offset: number;
  /** Mean distance, where every distance above a bound counts as that. */
  readonly error: number;
}

const byte = (v: number): number => max(0, min(255, round(v)));
const FAR = 24;
/** Further than any two bytes. */
const WIDE = 1e6;

/** Least squares with robust weights; what was cut off, and would be, tells nothing. */
function fit(pairs: Float32Array, n: number, c: number, power: number): Fitted | undefined {
  let factor = 255;
  let offset = 0;
  for (let turn = 0; turn < 6; turn++) {
    let w = 0;
    let mx = 0;
    let my = 0;
    let xx = 0;
    let xy = 0;
    // Wide at first: where an edit is strong, nothing is near.
    const bound = turn ? max(6, 96 / 2 ** turn) : WIDE;
    for (let k = 0; k < n; k++) {
      const after = pairs[6 * k + 3 + c] as number;
      const x = raised(pairs[6 * k + c] as number, power);
      const is = offset + factor * x;
      const e = abs(is - after);
      if (e >= bound || (after < 1 && (is < 1 || !turn)) || (after > 254 && (is > 254 || !turn))) continue;
      const near = 1 - (e / bound) * (e / bound);
      const weight = bound === WIDE ? 1 : near * near;
      w += weight;
      mx += weight * x;
      my += weight * after;
      xx += weight * x * x;
      xy += weight * x * after;
    }
    const square = xx - (mx * mx) / w;
    if (w < 50 || !(square > 1e-3)) return undefined;
    factor = (xy - (mx * my) / w) / square;
    offset = (my - factor * mx) / w;
  }
  let error = 0;
  for (let k = 0; k < n; k++)
    error += min(
      FAR,
      abs(
        max(0, min(255, offset + factor * raised(pairs[6 * k + c] as number, power))) -
          (pairs[6 * k + 3 + c] as number),
      ),
    );
  return { power, factor, offset, error: error / n };
}

const tables = new Map(POWERS.map((p) => [p, Float32Array.from({ length: 257 }, (_, v) => (min(255, v) / 255) ** p)]));
function raised(v: number, power: number): number {
  const table = tables.get(power) as Float32Array;
  const k = v | 0;
  return (table[k] as number) + (v - k) * ((table[k + 1] as number) - (table[k] as number));
}

/** A picture with its channels changed. */
export function through({ width, height, data }: Bitmap, [red, green, blue]: Channels): Bitmap {
  const out = new Uint8Array(data.length);
  for (let p = 0; p < data.length; p += 4) {
    out[p] = red[data[p] as number] as number;
    out[p + 1] = green[data[p + 1] as number] as number;
    out[p + 2] = blue[data[p + 2] as number] as number;
    out[p + 3] = data[p + 3] as number;
  }
  return { width, height, data: out };
}
