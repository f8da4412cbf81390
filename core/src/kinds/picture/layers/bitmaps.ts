/** The pixels of layers: trimmed to what is painted, laid where they lie, and held against one another. */
import { type Box } from '../../../geometry/box.ts';
import { words, type Bitmap } from '../../../raster/bitmap.ts';

/** A bitmap with the place of its upper left corner on the canvas. */
export interface PlacedBitmap extends Bitmap {
  readonly x: number;
  readonly y: number;
}

export const boxOf = ({ x, y, width, height }: PlacedBitmap): Box => [x, y, x + width, y + height];

/** What of a layer is painted. */
export function trimmed({ width, height, data }: Bitmap, [x, y]: Box): PlacedBitmap {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let row = 0; row < height; row++) {
    const from = 4 * row * width + 3;
    let first = 0;
    let last = width - 1;
    while (first < width && !data[from + 4 * first]) first++;
    if (first === width) continue;
    while (!data[from + 4 * last]) last--;
    [left, top, right, bottom] = [Math.min(left, first), Math.min(top, row), Math.max(right, last + 1), row + 1];
  }
  if (right <= left) return { x, y, width: 1, height: 1, data: new Uint8Array(4) };
  if (right - left === width && bottom - top === height) return { x, y, width, height, data };
  const out = new Uint8Array(4 * (right - left) * (bottom - top));
  for (let row = top; row < bottom; row++)
    out.set(data.subarray(4 * (row * width + left), 4 * (row * width + right)), 4 * (row - top) * (right - left));
  return { x: x + left, y: y + top, width: right - left, height: bottom - top, data: out };
}

/** The one colour of what is painted, as #rrggbb; undefined where there are several. */
export function onlyColour(bitmap: Bitmap): string | undefined {
  const all = words(bitmap);
  const first = all[0] as number;
  if (!all.every((v) => v === first)) return undefined;
  return `#${[0, 1, 2].map((c) => (bitmap.data[c] as number).toString(16).padStart(2, '0')).join('')}`;
}

export function equal(a: Bitmap, b: Bitmap): boolean {
  if (a.width !== b.width || a.height !== b.height) return false;
  const p = words(a);
  const q = words(b);
  // Where nothing is painted, colours do not count.
  return p.every((v, k) => v === q[k] || (a.data[4 * k + 3] === 0 && b.data[4 * k + 3] === 0));
}

/** A grey that the fewest pixels come near to, so that what is painted stands out from it. */
export function groundFor(bitmaps: readonly Bitmap[]): number {
  const counts = [0, 0, 0];
  for (const { data } of bitmaps) {
    for (let p = 0; p < data.length; p += 4 * (1 + (data.length >> 18))) {
      if ((data[p + 3] as number) < 32) continue;
      const grey = (54 * (data[p] as number) + 183 * (data[p + 1] as number) + 19 * (data[p + 2] as number)) >> 8;
      const lighter = grey < 180 ? 1 : 2;
      const k = grey < 70 ? 0 : lighter;
      counts[k] = (counts[k] as number) + 1;
    }
  }
  // White where it does: that is what most layers are made to be seen on.
  return (
    [
      [2, 255],
      [0, 0],
      [1, 119],
    ] as const
  ).reduce((best, next) => ((counts[next[0]] as number) < (counts[best[0]] as number) ? next : best))[1];
}

export function onGround({ width, height, data }: Bitmap, ground: number): Bitmap {
  const out = new Uint8ClampedArray(data.length);
  for (let p = 0; p < out.length; p += 4) {
    const alpha = (data[p + 3] as number) / 255;
    for (let c = 0; c < 3; c++) out[p + c] = ground + alpha * ((data[p + c] as number) - ground);
    out[p + 3] = 255;
  }
  return { width, height, data: out };
}

/** A bitmap as it lies in a box, on a ground; transparent where there is none. */
export function laidPlainly(bitmap: Bitmap, own: Box, box: Box, ground: number | undefined): Bitmap {
  const width = box[2] - box[0];
  const height = box[3] - box[1];
  const out = new Uint32Array(width * height).fill(
    ground === undefined ? 0 : ((0xff << 24) | (ground << 16) | (ground << 8) | ground) >>> 0,
  );
  const from = words(ground === undefined ? bitmap : onGround(bitmap, ground));
  const dx = own[0] - box[0];
  const dy = own[1] - box[1];
  for (let y = Math.max(0, -dy); y < bitmap.height && y + dy < height; y++) {
    const left = Math.max(0, -dx);
    const right = Math.min(bitmap.width, width - dx);
    if (right > left)
      out.set(from.subarray(y * bitmap.width + left, y * bitmap.width + right), (y + dy) * width + left + dx);
  }
  return { width, height, data: new Uint8Array(out.buffer) };
}

/**
 * Greatest mean difference of a channel, and share of pixels that may differ by more than a little, of pictures that
 * look the same.
 */
const MEAN = 1.5;
const FEW = 0.01;
const LITTLE = 12;

export function alike(a: Bitmap, b: Bitmap): boolean {
  const p = onGround(a, 255).data;
  const q = onGround(b, 255).data;
  let sum = 0;
  let far = 0;
  for (let k = 0; k < p.length; k += 4) {
    const most = Math.max(
      Math.abs((p[k] as number) - (q[k] as number)),
      Math.abs((p[k + 1] as number) - (q[k + 1] as number)),
      Math.abs((p[k + 2] as number) - (q[k + 2] as number)),
    );
    sum += most;
    if (most > LITTLE) far++;
  }
  return sum / (p.length / 4) < MEAN && far / (p.length / 4) < FEW;
}
