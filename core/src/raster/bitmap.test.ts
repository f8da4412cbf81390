/** The fast ways through pixels give what the plain ones give. */
import { between, halved, lightnessOf, Tones, words, type Bitmap, type Grey } from './bitmap.ts';

let seed = 9;
const random = (below: number): number => {
  seed = (seed * 48_271) % 2_147_483_647;
  return seed % below;
};
const picture = (width: number, height: number, opaque: boolean): Bitmap => ({
  width,
  height,
  data: Uint8Array.from({ length: 4 * width * height }, (_, k) => (k % 4 === 3 && opaque ? 255 : random(256))),
});

/** Lightness as the definition has it: bytes on white are mixed, then seen (CIE L*). */
function plainly({ width, data }: Bitmap, step: number, x: number, y: number): number {
  let sum = 0;
  for (let dy = 0; dy < step; dy++)
    for (let dx = 0; dx < step; dx++) {
      const p = 4 * ((y * step + dy) * width + x * step + dx);
      const [r = 0, g = 0, b = 0, a = 0] = data.slice(p, p + 4);
      const grey = (54 * r + 183 * g + 19 * b) / 256;
      sum += 255 + (a / 255) * (grey - 255);
    }
  const v = sum / (step * step) / 255;
  const light = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  return light > 216 / 24389 ? 116 * Math.cbrt(light) - 16 : (24389 / 27) * light;
}

test.each([
  [1, true],
  [2, true],
  [3, true],
  [8, true],
  [17, true],
  [4, false],
  [5, false],
])('lightness by squares of %d, opaque: %s', (step, opaque) => {
  const bitmap = picture(53, 37, opaque);
  const { width, height, data } = lightnessOf(bitmap, step);
  expect([width, height]).toEqual([Math.floor(53 / step), Math.floor(37 / step)]);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      expect(Math.abs((data[y * width + x] as number) - plainly(bitmap, step, x, y))).toBeLessThan(0.06);
});

test('white is 100, black 0, and nothing at all is white', () => {
  const flat = (...rgba: number[]): number =>
    lightnessOf({ width: 2, height: 2, data: Uint8Array.from([...rgba, ...rgba, ...rgba, ...rgba]) }, 2).data[0]!;
  expect(flat(255, 255, 255, 255)).toBeCloseTo(100, 2);
  expect(flat(0, 0, 0, 255)).toBeCloseTo(0, 5);
  expect(flat(0, 0, 0, 0)).toBeCloseTo(100, 2);
});

test('tables of light run from dark to bright', () => {
  for (const table of [Tones.linear, Tones.lightness])
    for (let k = 1; k < table.length; k++) expect(table[k]! > table[k - 1]!).toBe(true);
  expect([Tones.linear[0], Tones.linear[255]]).toEqual([0, 1]);
});

test('pixels as numbers tell equal ones, wherever their bytes lie', () => {
  const bitmap = picture(5, 3, true);
  const room = new Uint8Array(4 * 15 + 3);
  room.set(bitmap.data, 3);
  const aside: Bitmap = { ...bitmap, data: room.subarray(3) };
  expect([...words(aside)]).toEqual([...words(bitmap)]);
});

const grey = (width: number, ...data: number[]): Grey => ({
  width,
  height: data.length / width,
  data: Float32Array.from(data),
});

describe('half as large', () => {
  test('is the mean of four', () => {
    expect(halved(grey(4, 0, 2, 10, 10, 4, 6, 20, 40))).toEqual(grey(2, 3, 20));
  });

  test('of odd sizes drops the rim, and of a single row keeps it', () => {
    expect(halved(grey(3, 1, 3, 99, 5, 7, 99, 99, 99, 99))).toEqual(grey(1, 4));
    expect(halved(grey(4, 0, 2, 4, 6))).toEqual(grey(2, 1, 5));
    expect(halved(grey(1, 8))).toEqual(grey(1, 8));
  });
});

describe('between pixels', () => {
  const square = grey(2, 0, 10, 20, 30);

  test.each([
    [0, 0, 0],
    [1, 0, 10],
    [0, 1, 20],
    [0.5, 0.5, 15],
    [0.25, 0, 2.5],
    [1, 1, 30],
  ])('at (%d, %d) it is %d', (x, y, expected) => expect(between(square, x, y)).toBeCloseTo(expected, 6));

  test('there is nothing outside', () => {
    for (const [x, y] of [
      [-0.01, 0],
      [0, 1.01],
      [NaN, 0],
    ] as const)
      expect(between(square, x, y)).toBeNaN();
  });

  test('a single row has its pixels', () => expect(between(grey(3, 1, 2, 3), 1, 0)).toBe(2));
});
