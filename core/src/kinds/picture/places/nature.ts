/** What was done to a place of a picture, judged by how its pixels before and after hang together. */
import type { Nature } from '../../../causes/sayings/picture.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { labOf } from '../tone/lab.ts';
import type { Region } from '../difference/regions.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, hypot, max, min, round, sqrt } = Math;

/** Side of the sample that a region is judged by. */
const SIDE = 24;

/** x and y of squares of 4 × 4 pixels, alternating. */
export type Squares = readonly number[];

interface Sample {
  readonly light: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
  readonly n: number;
}

/** L*, a*, b* of the pixel at byte `p`, on white. */
function onWhite({ data }: Bitmap, p: number): Float32Array {
  const alpha = (data[p + 3] as number) / 255;
  const mixed = (v: number): number => round(255 - alpha * (255 - v));
  return labOf(mixed(data[p] as number), mixed(data[p + 1] as number), mixed(data[p + 2] as number));
}

/** Pixels spread over a box; `grow` takes in its surroundings. */
function sample(of: Bitmap, box: Region['box']): Sample {
  const [x0, y0, x1, y1] = box;
  const w = min(SIDE, max(1, x1 - x0));
  const h = min(SIDE, max(1, y1 - y0));
  const n = w * h;
  const light = new Float32Array(n);
  const green = new Float32Array(n);
  const blue = new Float32Array(n);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const px = min(of.width - 1, max(0, floor(x0 + ((x + 0.5) * (x1 - x0)) / w)));
      const py = min(of.height - 1, max(0, floor(y0 + ((y + 0.5) * (y1 - y0)) / h)));
      const p = 4 * (py * of.width + px);
      const [l = 0, a = 0, b = 0] = onWhite(of, p);
      light[y * w + x] = l;
      green[y * w + x] = a;
      blue[y * w + x] = b;
    }
  }
  return { light, green, blue, n };
}

const mean = (v: Float32Array): number => v.reduce((s, x) => s + x, 0) / v.length;
const spread = (v: Float32Array): number => {
  const m = mean(v);
  return sqrt(v.reduce((s, x) => s + (x - m) ** 2, 0) / v.length);
};

function correlation(p: Float32Array, q: Float32Array): number {
  const mp = mean(p);
  const mq = mean(q);
  let pp = 0;
  let qq = 0;
  let pq = 0;
  for (let i = 0; i < p.length; i++) {
    pp += ((p[i] as number) - mp) ** 2;
    qq += ((q[i] as number) - mq) ** 2;
    pq += ((p[i] as number) - mp) * ((q[i] as number) - mq);
  }
  return pp * qq > 0 ? pq / sqrt(pp * qq) : 0;
}

/** Mean step from pixel to pixel, at full size. */
function sharpness(of: Bitmap, [x0, y0, x1, y1]: Region['box']): number {
  let sum = 0;
  let n = 0;
  const step = max(1, floor(sqrt(((x1 - x0) * (y1 - y0)) / 10_000)));
  for (let y = y0; y < y1 - 1; y += step) {
    for (let x = x0; x < x1 - 1; x += step) {
      const p = 4 * (y * of.width + x);
      sum +=
        abs((of.data[p + 1] as number) - (of.data[p + 5] as number)) +
        abs((of.data[p + 1] as number) - (of.data[p + 1 + 4 * of.width] as number));
      n++;
    }
  }
  return n ? sum / n : 0;
}

/** Pixels of some squares. */
function sampleOf(of: Bitmap, squares: Squares): Sample {
  const n = 2 * squares.length;
  const light = new Float32Array(n);
  const green = new Float32Array(n);
  const blue = new Float32Array(n);
  for (let k = 0; k < n; k++) {
    const s = 2 * (k >> 2);
    const x = min(of.width - 1, max(0, (squares[s] as number) + (k & 1) * 2));
    const y = min(of.height - 1, max(0, (squares[s + 1] as number) + (k & 2)));
    const p = 4 * (y * of.width + x);
    const [l = 0, a = 0, b = 0] = onWhite(of, p);
    light[k] = l;
    green[k] = a;
    blue[k] = b;
  }
  return { light, green, blue, n };
}

/** Squares around a region that are not of it. */
function ringOf({ width, height }: Bitmap, [x0, y0, x1, y1]: Region['box'], squares: Squares): Squares {
  const own = new Set<string>();
  const by = max(8, round(max(x1 - x0, y1 - y0) * 0.25));
  const out: number[] = [];
  const step = max(4, 4 * round((max(x1 - x0, y1 - y0) + 2 * by) / 4 / 28));
  for (let k = 0; k < squares.length; k += 2)
    for (const dx of [-4, 0, 4])
      for (const dy of [-4, 0, 4]) own.add(`${(squares[k] as number) + dx},${(squares[k + 1] as number) + dy}`);
  for (let y = y0 - by; y < y1 + by; y += step)
    for (let x = x0 - by; x < x1 + by; x += step)
      if (x >= 0 && y >= 0 && x < width && y < height && !own.has(`${x - (x % 4)},${y - (y % 4)}`)) out.push(x, y);
  return out;
}

/** How far the colours of a place are from those around it. */
function standsOut(inside: Sample, ring: Sample): number {
  if (!ring.n) return 0;
  return (
    hypot(
      mean(inside.light) - mean(ring.light),
      mean(inside.green) - mean(ring.green),
      mean(inside.blue) - mean(ring.blue),
    ) +
    0.7 * abs(spread(inside.light) - spread(ring.light))
  );
}

/** `a` lies over `b`: both have one size. */
export function natureOf(a: Bitmap, b: Bitmap, region: Region, squares: Squares): Nature {
  const { box } = region;
  const p = sampleOf(a, squares);
  const q = sampleOf(b, squares);
  const alike = correlation(p.light, q.light);
  const before = spread(p.light);
  const after = spread(q.light);
  const light = mean(q.light) - mean(p.light);
  const colour = hypot(mean(q.green) - mean(p.green), mean(q.blue) - mean(p.blue));
  const sharpA = sharpness(a, box);
  const sharpB = sharpness(b, box);
  if (alike > 0.85 && before > 1.5 && abs(light) < 2.5 && colour < 3) {
    if (sharpB < 0.75 * sharpA) return 'blurred';
    if (sharpB > 1.33 * sharpA) return 'sharpened';
  }
  const flat = before < 1.5 && after < 1.5;
  if ((alike > 0.85 && before > 1) || flat) {
    if (colour > max(3, abs(light) * 0.6)) return 'recoloured';
    if (abs(light) > 1.5 && alike > 0.85 && !flat) return light > 0 ? 'brighter' : 'darker';
  }
  const ring = ringOf(b, box, squares);
  const outA = standsOut(p, sampleOf(a, ring));
  const outB = standsOut(q, sampleOf(b, ring));
  if (outB > 4 && outA < 0.45 * outB) return 'added';
  if (outA > 4 && outB < 0.45 * outA) return 'removed';
  return 'repainted';
}

/** Whether what stood in A at one region stands in B at the other; both boxes are about as large. */
export function sameContent(a: Bitmap, from: Region['box'], b: Bitmap, to: Region['box']): boolean {
  const w = from[2] - from[0];
  const h = from[3] - from[1];
  const tw = to[2] - to[0];
  const th = to[3] - to[1];
  if (abs(w - tw) > 8 + 0.1 * w || abs(h - th) > 8 + 0.1 * h || w < 8 || h < 8) return false;
  const p = sample(a, from);
  if (spread(p.light) < 1) return false;
  const near = (q: Sample, reach: number): boolean =>
    hypot(mean(p.light) - mean(q.light), mean(p.green) - mean(q.green), mean(p.blue) - mean(q.blue)) < reach;
  if (!near(sample(b, [to[0], to[1], to[0] + w, to[1] + h]), 12)) return false;
  // Boxes are known to a square only: a few places around are tried.
  for (let dy = -4; dy <= 4; dy++) {
    for (let dx = -4; dx <= 4; dx++) {
      const q = sample(b, [to[0] + dx, to[1] + dy, to[0] + dx + w, to[1] + dy + h]);
      if (q.n === p.n && correlation(p.light, q.light) > 0.93 && near(q, 4)) return true;
    }
  }
  return false;
}
