/**
 * Pieces of pictures: cells of a grid with their colours. Packed bytes change wholly with every edit, and say nothing
 * about what two pictures have in common.
 */
import type { Bitmap } from '../../raster/bitmap.ts';

/** Cells of the longer side. */
const CELLS = 96;
/** Steps of a colour that are told apart: what is packed with loss comes back a little other. */
const EXACT = 64;
const NEARLY = 16;

/** Hashes of cells, ascending. Paper, the colour that most cells have, says nothing and is left out. */
export function cellsOf({ width, height, data }: Bitmap, isLossy: boolean): Uint32Array {
  const side = Math.max(1, Math.max(width, height) / CELLS);
  const [columns, rows] = [Math.max(1, Math.round(width / side)), Math.max(1, Math.round(height / side))];
  const step = 256 / (isLossy ? NEARLY : EXACT);
  const colours = new Uint32Array(columns * rows);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x0, x1] = [Math.floor((column * width) / columns), Math.ceil(((column + 1) * width) / columns)];
      const [y0, y1] = [Math.floor((row * height) / rows), Math.ceil(((row + 1) * height) / rows)];
      colours[row * columns + column] = meanColour(data, width, [x0, y0, x1, y1], step);
    }
  const paper = mostCommon(colours);
  const cells = new Set<number>();
  colours.forEach((colour, cell) => {
    if (!isLike(colour, paper, isLossy ? 1 : 0)) cells.add(hashOf(cell, colour));
  });
  if (cells.size === 0) cells.add(hashOf(0, paper));
  return Uint32Array.from(cells).sort();
}

/** The mean of a box of pixels, rounded to steps, as one number. What can be seen through is white. */
function meanColour(
  data: Bitmap['data'],
  width: number,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  step: number,
): number {
  const sums = [0, 0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const at = 4 * (y * width + x);
      const opacity = (data[at + 3] as number) / 255;
      for (let channel = 0; channel < 3; channel++)
        sums[channel] = (sums[channel] as number) + (data[at + channel] as number) * opacity + 255 * (1 - opacity);
    }
  const count = Math.max(1, (x1 - x0) * (y1 - y0));
  return sums.reduce((colour, sum) => colour * 256 + Math.round(sum / count / step), 0);
}

/** Whether no channel of two colours is further apart than so many steps. */
const isLike = (a: number, b: number, steps: number): boolean =>
  [16, 8, 0].every((shift) => Math.abs(((a >>> shift) & 255) - ((b >>> shift) & 255)) <= steps);

function mostCommon(colours: Uint32Array): number {
  const counts = new Map<number, number>();
  for (const colour of colours) counts.set(colour, (counts.get(colour) ?? 0) + 1);
  return [...counts].reduce((best, one) => (one[1] > best[1] ? one : best), [0, 0])[0];
}

/** Spread over all bits (the finish of MurmurHash3). */
function hashOf(cell: number, colour: number): number {
  let h = Math.imul(cell + 1, 0x9e3779b1) ^ Math.imul(colour + 1, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
