/** The pieces from which layers are compared: their pixels, and what else of them may differ. */
import type { PictureLayer } from '../../../model/layers.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { say } from '../../../causes/say.ts';
import { lookDifferences } from './aspects.ts';
import { alike, boxOf, equal, groundFor, laidPlainly, onGround, onlyColour, trimmed } from './bitmaps.ts';

/** A bitmap of rows of letters: each letter a colour, a dot nothing. */
const colours: Readonly<Record<string, readonly [number, number, number, number]>> = {
  '.': [0, 0, 0, 0],
  k: [0, 0, 0, 255],
  w: [255, 255, 255, 255],
  r: [200, 30, 30, 255],
  g: [119, 119, 119, 255],
  h: [200, 30, 30, 128],
};
function drawn(...rows: string[]): Bitmap {
  const width = rows[0]!.length;
  const data = new Uint8Array(rows.flatMap((row) => Array.from(row, (letter) => [...colours[letter]!]).flat()));
  return { width, height: rows.length, data };
}
const rowsOf = ({ width, height, data }: Bitmap): string[] =>
  Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (__, x) => {
      const pixel = [...data.slice(4 * (y * width + x), 4 * (y * width + x) + 4)].join();
      return Object.entries(colours).find(([, colour]) => colour.join() === pixel)?.[0] ?? '?';
    }).join(''),
  );

describe('what is painted of a layer', () => {
  test('is cut out, with its place on the canvas', () => {
    const cut = trimmed(drawn('.....', '..rk.', '..r..', '.....'), [10, 20, 15, 24]);
    expect(rowsOf(cut)).toEqual(['rk', 'r.']);
    expect(boxOf(cut)).toEqual([12, 21, 14, 23]);
  });

  test('stays as it is where nothing is to be cut, and is a single empty pixel where nothing is painted', () => {
    const whole = drawn('rk', 'kr');
    expect(trimmed(whole, [0, 0, 2, 2]).data).toBe(whole.data);
    expect(trimmed(drawn('...', '...'), [5, 6, 8, 8])).toMatchObject({ x: 5, y: 6, width: 1, height: 1 });
  });

  test('may be of one colour', () => {
    expect(onlyColour(drawn('rr', 'rr'))).toBe('#c81e1e');
    expect(onlyColour(drawn('rr', 'rk'))).toBeUndefined();
  });
});

test('pixels are equal where nothing is painted, whatever colour stands there', () => {
  const a = drawn('r.', '.k');
  const b = drawn('r.', '.k');
  b.data[4] = 99;
  expect(equal(a, b)).toBe(true);
  b.data[0] = 99;
  expect(equal(a, b)).toBe(false);
  expect(equal(a, drawn('r.'))).toBe(false);
});

test('the ground is what the fewest pixels come near to: white, if it does as well as another', () => {
  expect(groundFor([drawn('kkkk')])).toBe(255);
  expect(groundFor([drawn('wwww', 'gggg')])).toBe(0);
  expect(groundFor([drawn('wwww', 'kkkk')])).toBe(119);
  expect(groundFor([drawn('....')])).toBe(255);
});

test('half a colour on a ground is mixed with it', () => {
  const [red, green, blue, alpha] = onGround(drawn('h'), 255).data;
  expect([red, green, blue, alpha]).toEqual([227, 142, 142, 255]);
});

describe('a bitmap laid in a box', () => {
  test('keeps its place, and is cut at the edges', () => {
    expect(rowsOf(laidPlainly(drawn('rk'), [1, 1, 3, 2], [0, 0, 4, 3], undefined))).toEqual(['....', '.rk.', '....']);
    expect(rowsOf(laidPlainly(drawn('rk'), [-1, 0, 1, 1], [0, 0, 2, 1], undefined))).toEqual(['k.']);
    expect(rowsOf(laidPlainly(drawn('rk'), [9, 9, 11, 10], [0, 0, 2, 1], undefined))).toEqual(['..']);
  });

  test('stands on a ground, if there is one', () => {
    expect(rowsOf(laidPlainly(drawn('r.'), [0, 0, 2, 1], [0, 0, 3, 1], 255))).toEqual(['rww']);
  });
});

test('pictures look alike if they differ by little on most pixels', () => {
  const plain = drawn(...Array.from({ length: 20 }, () => 'g'.repeat(20)));
  const near = { ...plain, data: plain.data.map((v, i) => (i % 4 === 3 ? v : v + 1)) };
  const spot = { ...plain, data: plain.data.map((v, i) => (i < 4 * 20 && i % 4 !== 3 ? 0 : v)) };
  expect(alike(plain, near)).toBe(true);
  expect(alike(plain, spot)).toBe(false);
});

describe('what else of a layer may differ', () => {
  const layer = (more: Partial<PictureLayer> = {}): PictureLayer =>
    ({ kind: 'layer', name: 'Ferry', hidden: false, opacity: 1, blend: 'normal', group: -1, ...more }) as PictureLayer;
  const said = (more: Partial<PictureLayer>): string[] =>
    lookDifferences(layer(), layer(more)).map(({ saying }) => say(saying));

  test('is nothing for layers that are the same, or as good as', () => {
    expect(said({})).toEqual([]);
    expect(said({ opacity: 0.999 })).toEqual([]);
  });

  test.each([
    [{ name: 'Ferry, old' }, /Ferry.*Ferry, old/],
    [{ hidden: true }, /Ferry.*hidden/i],
    [{ opacity: 0.5 }, /Ferry.*50 %/],
    [{ blend: 'multiply' }, /Ferry.*multiply/],
    [{ words: 'All aboard' }, /Ferry.*All aboard/],
  ] as const)('%j is said', (more, says) => {
    const all = said(more);
    expect(all).toHaveLength(1);
    expect(all[0]).toMatch(says);
  });

  test('several at once are said one by one', () => {
    expect(said({ hidden: true, opacity: 0.2, blend: 'screen' })).toHaveLength(3);
  });
});
