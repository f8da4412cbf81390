import type { Bitmap } from '../../../raster/bitmap.ts';
import { plainDesign, type Design } from '../../../model/design.ts';
import { laidByPlaces } from './laid.ts';

/** A frame of a drawing's own units on paper, `scale` pixels a unit, with a mark that has no counterpart elsewhere. */
function sheet(
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  scale: number,
  millimetres?: number,
): { bitmap: Bitmap; design: Design; page: number } {
  const [width, height] = [Math.round((x1 - x0) * scale), Math.round((y1 - y0) * scale)];
  const data = new Uint8Array(4 * width * height).fill(255);
  const line = (ax: number, ay: number, bx: number, by: number): void => {
    for (let t = 0; t <= 1; t += 1 / 2000) {
      const [x, y] = [Math.floor((ax + t * (bx - ax) - x0) * scale), Math.floor((ay + t * (by - ay) - y0) * scale)];
      if (x >= 0 && y >= 0 && x < width && y < height) data.fill(0, 4 * (y * width + x), 4 * (y * width + x) + 3);
    }
  };
  for (const [ax, ay, bx, by] of [
    [0, 0, 100, 0],
    [100, 0, 100, 60],
    [100, 60, 0, 60],
    [0, 60, 0, 0],
    [20, 0, 20, 60],
    [20, 25, 100, 40],
  ] as const)
    line(ax, ay, bx, by);
  const page = { name: '', box: [x0, y0, x1, y1] as const, ...(millimetres ? { unitMillimetres: millimetres } : {}) };
  return { bitmap: { width, height, data }, design: plainDesign('flat', page, []), page: 0 };
}

const placed = (matrix: readonly number[], x: number, y: number): number[] =>
  [matrix[0]! * x + matrix[4]!, matrix[3]! * y + matrix[5]!].map(Math.round);

test('drawings in one unit lie over one another by their places, whatever their margins and scales', () => {
  const [a, b] = [sheet([-10, -10, 110, 70], 5, 1), sheet([-30, -5, 120, 80], 4, 1)];
  const laid = laidByPlaces(a, b)!;
  expect(laid.fit).toBeGreaterThan(0.9);
  // The corner at (100, 60).
  expect(placed(laid.matrix, 110 * 5, 70 * 5)).toEqual([130 * 4, 65 * 4]);
});

test('where units are not known, what is drawn lies over what is drawn', () => {
  const laid = laidByPlaces(sheet([-10, -10, 110, 70], 5), sheet([-30, -5, 120, 80], 4, 1))!;
  const [x = 0, y = 0] = placed(laid.matrix, 110 * 5, 70 * 5);
  expect(Math.abs(x - 520) + Math.abs(y - 260)).toBeLessThanOrEqual(4);
});

test('what has nothing in common is not laid over one another', () => {
  const other = sheet([-10, -10, 110, 70], 5, 1);
  const { data, width } = other.bitmap;
  data.fill(255);
  for (let k = 0; k < 200; k++) data.fill(0, 4 * (k * width + k), 4 * (k * width + k) + 3);
  expect(laidByPlaces(sheet([-10, -10, 110, 70], 5, 1), other)).toBeUndefined();
});
