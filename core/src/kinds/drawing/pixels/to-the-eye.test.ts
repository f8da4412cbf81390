import type { Bitmap } from '../../../raster/bitmap.ts';
import { Differing } from './to-the-eye.ts';

const WHITE = 255;

/** A white square with grey values where `inked` says so. */
function page(inked: (x: number, y: number) => number | undefined, side = 40): Bitmap {
  const data = new Uint8Array(side * side * 4).fill(WHITE);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const value = inked(x, y);
      if (value !== undefined) data.fill(value, 4 * (y * side + x), 4 * (y * side + x) + 3);
    }
  return { width: side, height: side, data };
}

const differing = (a: Bitmap, b: Bitmap): Differing => Differing.between(a, b)!;
const inside = (x: number, y: number): boolean => x >= 10 && x < 30 && y >= 10 && y < 30;

test('an edge that lies half a pixel beside is the same to the eye', () => {
  const square = page((x, y) => (inside(x, y) ? 0 : undefined));
  const beside = page((x, y) => {
    if (x === 30 && y >= 10 && y < 30) return 128;
    if (x === 10 && y >= 10 && y < 30) return 128;
    return inside(x, y) ? 0 : undefined;
  });
  expect(differing(square, beside).all).toBe(0);
});

test.each([
  [
    'an area that is a little darker',
    () => page((x, y) => (inside(x, y) ? 120 : undefined)),
    () => page((x, y) => (inside(x, y) ? 110 : undefined)),
  ],
  ['a thin line that is gone', () => page((x) => (x === 20 ? 0 : undefined)), () => page(() => undefined)],
  ['a faint line that came', () => page(() => undefined), () => page((_, y) => (y === 7 ? 225 : undefined))],
  [
    'a line three pixels beside',
    () => page((x) => (x === 20 ? 0 : undefined)),
    () => page((x) => (x === 23 ? 0 : undefined)),
  ],
])('%s differs', (_, before, after) => expect(differing(before(), after()).all).toBeGreaterThan(20));

test('a single pixel is noise', () => {
  const one = page((x, y) => (x === 5 && y === 5 ? 0 : undefined));
  expect(
    differing(
      page(() => undefined),
      one,
    ).all,
  ).toBe(0);
});

test('it is told where the pages differ, as shares of the page', () => {
  const found = differing(
    page(() => undefined),
    page((x, y) => (inside(x, y) ? 60 : undefined)),
  );
  expect(found.within([0.25, 0.25, 0.75, 0.75])).toBe(20 * 20);
  expect(found.within([0.8, 0.8, 1, 1])).toBe(0);
});

test('colours that edges explain are still other colours', () => {
  const black = page((x) => (x === 20 ? 0 : undefined));
  const grey = page((x) => (x === 20 ? 100 : undefined));
  expect(differing(black, grey).unlikeWithin([0, 0, 1, 1])).toBe(40);
});

test('pages of another shape are not compared', () => {
  expect(
    Differing.between(
      page(() => undefined, 40),
      page(() => undefined, 50),
    ),
  ).toBeUndefined();
});
