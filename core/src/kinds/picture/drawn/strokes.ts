/**
 * How much two drawings of one thing differ that were not drawn by the same program: lines may lie a little beside
 * one another, and be a little thicker. A pixel counts where its colour lies outside of what the other has around
 * that place (grey-scale erosion and dilation), by as much as it lies outside.
 */
import type { Box } from '../../../geometry/box.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { CELL, THRESHOLD, type DifferenceMap } from '../difference/difference-map.ts';
import { differenceOf } from '../difference/difference.ts';

/** Taken out of their object once: they are called for every pixel. */
const { ceil, floor, max, min } = Math;

/** Excess of a byte that counts as one step of CIEDE2000, about what it is for greys. */
const STEP = 2.5;
/** Weight of a square's mean excess: a thin line through it counts, single pixels do not. */
const WEIGHT = 0.5;
/** Excess below is none: gradients and smoothed edges are computed differently everywhere. */
const SLIGHT = 40;

export interface Strokes {
  /** How far lines may lie beside one another, in pixels; up to 7. */
  readonly reach: number;
  /** Places that are not looked at. */
  readonly beside: readonly Box[];
  /** One of them was photographed or scanned: paper is not white, and lines are softer. */
  readonly scanned: boolean;
}

export function strokesBetween(
  sharpA: Bitmap,
  sharpB: Bitmap,
  covered: Uint8Array | undefined,
  { reach, beside, scanned }: Strokes,
): DifferenceMap {
  const [whiteA, whiteB] = scanned ? [onWhite(sharpA), onWhite(sharpB)] : [sharpA, sharpB];
  const { plain, shared, columns, rows } = differenceOf(whiteA, whiteB, covered, undefined);
  const { width, height } = sharpB;
  // What was warped or scanned has softer lines; softened, both have.
  const [a, b] = reach > 1 ? [softened(whiteA), softened(whiteB)] : [whiteA, whiteB];
  const beyond = new Float32Array(columns * rows);
  const [lowA, highA, lowB, highB] = [
    range(a, reach, true),
    range(a, reach, false),
    range(b, reach, true),
    range(b, reach, false),
  ];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (covered && !covered[i]) continue;
      let excess = 0;
      for (let c = 0; c < 3; c++) {
        const p = 4 * i + c;
        const va = a.data[p] as number;
        const vb = b.data[p] as number;
        excess = max(
          excess,
          vb - (highA[p] as number),
          (lowA[p] as number) - vb,
          va - (highB[p] as number),
          (lowB[p] as number) - va,
        );
      }
      // Softened, a thicker line is darker, too: there has to be something that is not there at all when seen sharply.
      if (excess > SLIGHT && (reach === 1 || outside(whiteA, whiteB, x, y, reach)))
        beyond[floor(y / CELL) * columns + floor(x / CELL)] =
          (beyond[floor(y / CELL) * columns + floor(x / CELL)] as number) + excess;
    }
  }
  for (let k = 0; k < beyond.length; k++)
    beyond[k] = shared[k] ? (WEIGHT * (beyond[k] as number)) / (CELL * CELL) / STEP : 0;
  for (const [x0, y0, x1, y1] of beside) {
    for (let row = max(0, floor(y0 / CELL)); row < min(rows, ceil(y1 / CELL)); row++)
      beyond.fill(0, row * columns + max(0, floor(x0 / CELL)), row * columns + max(0, min(columns, ceil(x1 / CELL))));
  }
  return { columns, rows, plain, beyond: withoutSpecks(beyond, shared, columns, rows), shared, noise: 0, median: 0 };
}

/** Whether a pixel of either, or one beside it, has a colour that the other has nowhere near. */
function outside(a: Bitmap, b: Bitmap, x: number, y: number, reach: number): boolean {
  for (const [of, by] of [
    [a, b],
    [b, a],
  ] as const) {
    for (let c = 0; c < 3; c++) {
      let [low, high] = [255, 0];
      for (let v = max(0, y - reach - SOFT); v <= min(of.height - 1, y + reach + SOFT); v++) {
        for (let u = max(0, x - reach - SOFT); u <= min(of.width - 1, x + reach + SOFT); u++) {
          const value = by.data[4 * (v * of.width + u) + c] as number;
          low = min(low, value);
          high = max(high, value);
        }
      }
      for (let v = max(0, y - SOFT); v <= min(of.height - 1, y + SOFT); v++) {
        for (let u = max(0, x - SOFT); u <= min(of.width - 1, x + SOFT); u++) {
          const value = of.data[4 * (v * of.width + u) + c] as number;
          if (value < low - SLIGHT || value > high + SLIGHT) return true;
        }
      }
    }
  }
  return false;
}

/** False beside what only one of them shows: there, means are of half a square. */
function within(shared: Uint8Array, columns: number, rows: number, x: number, y: number): boolean {
  for (let v = max(0, y - 2); v <= min(rows - 1, y + 2); v++)
    for (let u = max(0, x - 2); u <= min(columns - 1, x + 2); u++) if (!shared[v * columns + u]) return false;
  return true;
}

/** Squares that differ with fewer than two others around them are how a line was smoothed. */
function withoutSpecks(beyond: Float32Array, shared: Uint8Array, columns: number, rows: number): Float32Array {
  const out = beyond.slice();
  const hot = (x: number, y: number): number =>
    x >= 0 && y >= 0 && x < columns && y < rows && (beyond[y * columns + x] as number) >= THRESHOLD ? 1 : 0;
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      if (!hot(x, y)) continue;
      const around =
        hot(x - 1, y - 1) +
        hot(x, y - 1) +
        hot(x + 1, y - 1) +
        hot(x - 1, y) +
        hot(x + 1, y) +
        hot(x - 1, y + 1) +
        hot(x, y + 1) +
        hot(x + 1, y + 1);
      if (around < 2 || !within(shared, columns, rows, x, y)) out[y * columns + x] = 0;
    }
  }
  return out;
}

/** The paper made white, channel by channel. */
function onWhite({ width, height, data }: Bitmap): Bitmap {
  const out = new Uint8ClampedArray(data.length);
  const scales = [0, 1, 2].map((c) => {
    const counts = new Uint32Array(256);
    for (let p = c; p < data.length; p += 4)
      if (data[p - c + 3]) counts[data[p] as number] = (counts[data[p] as number] as number) + 1;
    const all = counts.reduce((n, v) => n + v, 0);
    let above = 0;
    let v = 255;
    for (; v > 128; v--) {
      above += counts[v] as number;
      if (above >= PAPER * all) break;
    }
    return 255 / v;
  });
  for (let p = 0; p < data.length; p++)
    out[p] = p % 4 === 3 ? (data[p] as number) : (data[p] as number) * (scales[p % 4] as number);
  return { width, height, data: out };
}

/** Share of a sheet that is at least as light as its paper is taken for. */
const PAPER = 0.25;
const SOFT = 2;

/** Means of squares of 2 · SOFT + 1 pixels, across and then down. */
function softened(bitmap: Bitmap): Bitmap {
  const { width, height } = bitmap;
  const blurred = (
    data: Bitmap['data'],
    count: number,
    lines: number,
    step: number,
    next: number,
  ): Uint8ClampedArray => {
    const out = new Uint8ClampedArray(data.length);
    for (let line = 0; line < lines; line++) {
      for (let c = 0; c < 4; c++) {
        const from = line * next + c;
        let sum = 0;
        for (let k = -SOFT; k <= SOFT; k++) sum += data[from + step * min(count - 1, max(0, k))] as number;
        for (let k = 0; k < count; k++) {
          out[from + step * k] = sum / (2 * SOFT + 1);
          sum +=
            (data[from + step * min(count - 1, k + SOFT + 1)] as number) -
            (data[from + step * max(0, k - SOFT)] as number);
        }
      }
    }
    return out;
  };
  return {
    width,
    height,
    data: blurred(blurred(bitmap.data, width, height, 4, 4 * width), height, width, 4 * width, 4),
  };
}

/**
 * Least (or greatest) value of each channel within `reach` pixels, which may be up to 7: windows are joined from
 * smaller ones.
 */
function range({ width, height, data }: Bitmap, reach: number, least: boolean): Uint8Array {
  const out = new Uint8Array(4 * width * height);
  const size = 2 * reach + 1;
  const row = new Uint8Array(4 * (width + 2 * reach));
  const next = new Uint8Array(row.length);
  for (let y = 0; y < height; y++) {
    const from = 4 * y * width;
    for (let k = 0; k < reach; k++) {
      row.set(data.subarray(from, from + 4), 4 * k);
      row.set(data.subarray(from + 4 * (width - 1), from + 4 * width), 4 * (reach + width + k));
    }
    row.set(data.subarray(from, from + 4 * width), 4 * reach);
    let [at, other] = [row, next];
    let wide = 1;
    while (wide < size) {
      const step = min(wide, size - wide);
      joined(at, other, 4 * step, at.length - 4 * (wide + step - 1), least);
      [at, other, wide] = [other, at, wide + step];
    }
    out.set(at.subarray(0, 4 * width), from);
  }
  // The same down the columns: rows above the first and beneath the last are as these.
  const lines = Array.from({ length: height + 2 * reach }, (_, k) =>
    out.slice(4 * width * min(height - 1, max(0, k - reach)), 4 * width * (min(height - 1, max(0, k - reach)) + 1)),
  );
  for (let wide = 1; wide < size;) {
    const step = min(wide, size - wide);
    for (let k = 0; k + step + wide - 1 < lines.length; k++)
      smaller(lines[k] as Uint8Array, lines[k + step] as Uint8Array, least);
    wide += step;
  }
  for (let y = 0; y < height; y++) out.set(lines[y] as Uint8Array, 4 * y * width);
  return out;
}

function joined(from: Uint8Array, to: Uint8Array, shift: number, end: number, least: boolean): void {
  if (least) {
    for (let i = 0; i < end; i++) {
      const p = from[i] as number;
      const q = from[i + shift] as number;
      to[i] = p < q ? p : q;
    }
  } else {
    for (let i = 0; i < end; i++) {
      const p = from[i] as number;
      const q = from[i + shift] as number;
      to[i] = p > q ? p : q;
    }
  }
}

function smaller(line: Uint8Array, other: Uint8Array, least: boolean): void {
  for (let i = 0; i < line.length; i++) {
    const p = line[i] as number;
    const q = other[i] as number;
    if (least ? q < p : q > p) line[i] = q;
  }
}
