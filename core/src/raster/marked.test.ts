import type { Bitmap } from './bitmap.ts';
import { differing, marked } from './marked.ts';

const WIDTH = 20;
/** White, with one pixel of a grey. */
function sheet(at?: readonly [number, number], grey = 0): Bitmap {
  const data = new Uint8ClampedArray(WIDTH * WIDTH * 4).fill(255);
  if (at) data.fill(grey, 4 * (at[1] * WIDTH + at[0]), 4 * (at[1] * WIDTH + at[0]) + 3);
  return { width: WIDTH, height: WIDTH, data };
}
const colourAt = ({ data }: Bitmap, x: number, y: number): number[] => [
  ...data.slice(4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 3),
];

test('only what differs is found, also what is gone, and noise is not', () => {
  expect(differing(sheet(), sheet()).includes(1)).toBe(false);
  expect(differing(sheet([3, 4], 250), sheet()).includes(1)).toBe(false);
  const gone = differing(sheet([3, 4]), sheet());
  expect([...gone.keys()].filter((at) => gone[at] === 1)).toEqual([4 * WIDTH + 3]);
});

test('a mark reaches a little beyond what differs, and leaves the rest as it is', () => {
  const now = sheet([10, 10]);
  const shown = marked(sheet(), now, [200, 0, 100]);
  expect(colourAt(shown, 10, 10)).toEqual([90, 0, 45]);
  expect(colourAt(shown, 12, 12)).toEqual([230, 140, 185]);
  expect(colourAt(shown, 13, 10)).toEqual([255, 255, 255]);
  expect(colourAt(now, 12, 12)).toEqual([255, 255, 255]);
  // At the edge it does not run over to the other side.
  expect(colourAt(marked(sheet(), sheet([0, 0]), [0, 0, 0]), 19, 0)).toEqual([255, 255, 255]);
});

test('pictures of two sizes are not compared pixel by pixel', () => {
  expect(() => differing(sheet(), { width: 2, height: 2, data: new Uint8ClampedArray(16) })).toThrow(RangeError);
});
