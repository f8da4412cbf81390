/** What differs between two pictures of the same size, lightly marked on the later one. */
import type { Bitmap } from './bitmap.ts';

/** Sum of the differences of red, green and blue below which two pixels count as the same. */
const SAME = 24;
/** How far a mark reaches beyond what differs, in pixels: thin lines are to be seen. */
const REACH = 2;
/** Share of the mark's colour. */
const STRENGTH = 0.45;

/** Where two pictures differ: a byte a pixel, 1 where they do. They have to be of one size. */
export function differing(before: Bitmap, now: Bitmap): Uint8Array {
  const { width, height } = now;
  if (before.width !== width || before.height !== height) throw new RangeError('The pictures are not of one size.');
  const found = new Uint8Array(width * height);
  for (let pixel = 0, at = 0; pixel < found.length; pixel++, at += 4) {
    const red = Math.abs((before.data[at] as number) - (now.data[at] as number));
    const green = Math.abs((before.data[at + 1] as number) - (now.data[at + 1] as number));
    const blue = Math.abs((before.data[at + 2] as number) - (now.data[at + 2] as number));
    if (red + green + blue > SAME) found[pixel] = 1;
  }
  return found;
}

/** The later picture with a tint where it differs from the earlier one. Both opaque; a new picture is given. */
export function marked(before: Bitmap, now: Bitmap, [red, green, blue]: readonly [number, number, number]): Bitmap {
  const { width, height } = now;
  const mask = spread(differing(before, now), width, height);
  const data = Uint8ClampedArray.from(now.data);
  for (let pixel = 0, at = 0; pixel < mask.length; pixel++, at += 4) {
    if (mask[pixel] === 0) continue;
    data[at] = (data[at] as number) * (1 - STRENGTH) + red * STRENGTH;
    data[at + 1] = (data[at + 1] as number) * (1 - STRENGTH) + green * STRENGTH;
    data[at + 2] = (data[at + 2] as number) * (1 - STRENGTH) + blue * STRENGTH;
  }
  return { width, height, data };
}

/** A mask made wider by REACH pixels, first along rows, then along columns. */
function spread(mask: Uint8Array, width: number, height: number): Uint8Array {
  const along = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (mask[y * width + x])
        along.fill(1, y * width + Math.max(0, x - REACH), y * width + Math.min(width, x + REACH + 1));
  const both = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (along[y * width + x])
        for (let row = Math.max(0, y - REACH); row < Math.min(height, y + REACH + 1); row++) both[row * width + x] = 1;
  return both;
}
