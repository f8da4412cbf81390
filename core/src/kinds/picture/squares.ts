/** A flat picture as squares, so that who painted what can be followed through its versions. */
import { plainDesign, plainPart, type Design, type Part } from '../../model/design.ts';
import type { Picture } from '../../model/picture.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import type { Step } from '../kind.ts';
import { PICTURE_PAGE } from './places/places.ts';

/** Sides of squares, in pixels, for pictures of up to so many pixels a side. */
const sides: readonly (readonly [upTo: number, side: number])[] = [
  [1000, 16],
  [3000, 32],
  [Infinity, 64],
];
/** Mean difference of a channel above which a square of a picture that keeps pixels only nearly is another one. */
const NEARLY = 4;

const sideFor = ({ width, height }: Bitmap): number =>
  sides.find(([upTo]) => Math.max(width, height) <= upTo)?.[1] ?? 64;

export function squaresAsParts({ bitmap }: Picture): Design {
  const { width, height } = bitmap;
  const side = sideFor(bitmap);
  const parts: Part[] = [];
  for (let y = 0; y < height; y += side) {
    for (let x = 0; x < width; x += side)
      parts.push(
        plainPart({
          kind: 'square',
          name: `at ${x}, ${y}`,
          box: [x, y, Math.min(width, x + side), Math.min(height, y + side)],
        }),
      );
  }
  return plainDesign('squares', { name: PICTURE_PAGE, box: [0, 0, width, height] }, parts);
}

/** Squares at one place are one; in a picture of another size all are new. */
export function squareStep(a: Picture, b: Picture): Step {
  const [one, other] = [a.bitmap, b.bitmap];
  const side = sideFor(other);
  const columns = Math.ceil(other.width / side);
  const count = columns * Math.ceil(other.height / side);
  const isOneSize = one.width === other.width && one.height === other.height;
  const places = Int32Array.from({ length: count }, (_, k) => (isOneSize ? k : -1));
  const edited = new Set<number>();
  const least = a.lossy || b.lossy ? NEARLY : 0;
  for (let k = 0; isOneSize && k < count; k++)
    if (differenceIn(one, other, (k % columns) * side, Math.floor(k / columns) * side, side) > least) edited.add(k);
  const toB = isOneSize
    ? places
    : new Int32Array(Math.ceil(one.width / sideFor(one)) * Math.ceil(one.height / sideFor(one))).fill(-1);
  return { pairing: { toA: places, toB, keysTrusted: false, renumbered: false }, edited };
}

/** Mean difference of a channel. */
function differenceIn(a: Bitmap, b: Bitmap, left: number, top: number, side: number): number {
  let sum = 0;
  let count = 0;
  for (let y = top; y < Math.min(b.height, top + side); y++) {
    const from = 4 * (y * b.width + left);
    const to = 4 * (y * b.width + Math.min(b.width, left + side));
    for (let k = from; k < to; k++) sum += Math.abs((a.data[k] as number) - (b.data[k] as number));
    count += to - from;
  }
  return count === 0 ? 0 : sum / count;
}
