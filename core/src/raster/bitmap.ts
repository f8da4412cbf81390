/** Pictures as pixels: sRGB, 8 bits a channel, red, green, blue and opacity one after the other, rows from the top. */

/** Taken out of their object once: they are called for every pixel. */
const { cbrt, floor, max, min, round } = Math;
export interface Bitmap {
  readonly width: number;
  readonly height: number;
  /** width × height × 4 bytes; colours are not multiplied by opacity. */
  readonly data: Uint8ClampedArray | Uint8Array;
}

/** One number a pixel, rows from the top. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** The pixels as numbers of four bytes, for telling equal ones fast. Copies only where the bytes are not aligned. */
export function words({ data }: Bitmap): Uint32Array {
  return data.byteOffset % 4
    ? new Uint32Array(Uint8Array.from(data).buffer)
    : new Uint32Array(data.buffer, data.byteOffset, data.length >> 2);
}

/** Perceived lightness (CIE L*, 0 to 100) of a colour on white, from tables. */
export const Tones = {
  /** Linear light of an sRGB byte, 0 to 1 (IEC 61966-2-1). */
  linear: Float32Array.from({ length: 256 }, (_, v) =>
    v <= 10.31475 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4,
  ),
  /** L* of a luminance of k/4096. */
  lightness: Float32Array.from({ length: 4097 }, (_, k) =>
    k / 4096 > 216 / 24389 ? 116 * cbrt(k / 4096) - 16 : (24389 / 27) * (k / 4096),
  ),
} as const;

/** L* of a grey of k/16 of an sRGB byte. */
const lightOfByte = Float32Array.from({ length: 4081 }, (_, k) => {
  const v = k / 16 / 255;
  const y = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  return y > 216 / 24389 ? 116 * cbrt(y) - 16 : (24389 / 27) * y;
});

/**
 * Lightness of a picture made smaller: each value is the mean of a square of `step` pixels. What is left at the right
 * and lower edges is dropped. Transparent pixels count as white. Bytes are mixed, not light, as programs do that
 * resize.
 */
export function lightnessOf(bitmap: Bitmap, step: number): Grey {
  const { width, height, data } = bitmap;
  const w = max(1, floor(width / step));
  const h = max(1, floor(height / step));
  const out = new Float32Array(w * h);
  const pixels = words(bitmap);
  // Two channels are added up in one word, which holds so many pixels; of opaque ones, greys are mixed once for each
  // square.
  const cells = min(step, width);
  const rows = min(step, height);
  const count = cells * rows;
  const paired = count <= MOST_PAIRED;
  const scale = 16 / (256 * count);
  const reds = new Uint32Array(w);
  const greens = new Uint32Array(w);
  for (let y = 0; y < h; y++) {
    reds.fill(0);
    greens.fill(0);
    for (let dy = 0; dy < rows && paired; dy++) {
      for (let x = 0, p = (y * step + dy) * width; x < w; x++) {
        let red = 0;
        let green = 0;
        let dx = 0;
        for (; dx < cells - 3; dx += 4, p += 4) {
          const q = pixels[p] as number;
          const r = pixels[p + 1] as number;
          const s = pixels[p + 2] as number;
          const t = pixels[p + 3] as number;
          red += (q & PAIR) + (r & PAIR) + (s & PAIR) + (t & PAIR);
          green += ((q >>> 8) & PAIR) + ((r >>> 8) & PAIR) + ((s >>> 8) & PAIR) + ((t >>> 8) & PAIR);
        }
        for (; dx < cells; dx++, p++) {
          const word = pixels[p] as number;
          red += word & PAIR;
          green += (word >>> 8) & PAIR;
        }
        reds[x] = (reds[x] as number) + red;
        greens[x] = (greens[x] as number) + green;
      }
    }
    for (let x = 0; x < w; x++) {
      const red = reds[x] as number;
      const green = greens[x] as number;
      const grey =
        paired && green >>> 16 === 255 * count
          ? 54 * (red & 0xffff) + 183 * (green & 0xffff) + 19 * (red >>> 16)
          : greyOf(data, 4 * (y * step * width + x * step), width, cells, rows);
      out[y * w + x] = lightOfByte[min(4080, round(grey * scale))] as number;
    }
  }
  return { width: w, height: h, data: out };
}

/** Of two channels in one word, the lower eight bits of each half. */
export const PAIR = 0x00ff00ff;
/** Pixels whose bytes add up to less than half a word. */
const MOST_PAIRED = 256;

/** 256 times the grey of a square, summed up; transparent pixels count as white. */
function greyOf(data: Bitmap['data'], from: number, width: number, cells: number, rows: number): number {
  let sum = 0;
  for (let dy = 0; dy < rows; dy++) {
    for (let dx = 0, p = from + 4 * dy * width; dx < cells; dx++, p += 4) {
      const alpha = data[p + 3] as number;
      const grey = 54 * (data[p] as number) + 183 * (data[p + 1] as number) + 19 * (data[p + 2] as number);
      sum += alpha === 255 ? grey : 65_280 - (alpha / 255) * (65_280 - grey);
    }
  }
  return sum;
}

/** Half as large, by the mean of four. */
export function halved({ width, height, data }: Grey): Grey {
  const w = max(1, width >> 1);
  const h = max(1, height >> 1);
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const p = 2 * y * width + 2 * x;
      const right = 2 * x + 1 < width ? 1 : 0;
      const down = 2 * y + 1 < height ? width : 0;
      out[y * w + x] =
        ((data[p] as number) +
          (data[p + right] as number) +
          (data[p + down] as number) +
          (data[p + down + right] as number)) /
        4;
    }
  }
  return { width: w, height: h, data: out };
}

/** Value between pixels; pixel centres stand at whole numbers. NaN outside. */
export function between({ width, height, data }: Grey, x: number, y: number): number {
  if (!(x >= 0 && y >= 0 && x <= width - 1 && y <= height - 1)) return NaN;
  const x0 = min(width - 2, floor(x));
  const y0 = min(height - 2, floor(y));
  if (x0 < 0 || y0 < 0) return data[round(y) * width + round(x)] as number;
  const fx = x - x0;
  const fy = y - y0;
  const p = y0 * width + x0;
  const top = (data[p] as number) + fx * ((data[p + 1] as number) - (data[p] as number));
  const bottom = (data[p + width] as number) + fx * ((data[p + width + 1] as number) - (data[p + width] as number));
  return top + fy * (bottom - top);
}
