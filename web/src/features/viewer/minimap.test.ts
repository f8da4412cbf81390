import type { Change } from '@ovrel/core/contract';
import { density, minimapIn, throughMinimap } from './minimap.ts';

const page = [0, 0, 3000, 1500] as const;
const at = (x: number, y: number): Change => ({
  id: 'c',
  kind: 'added',
  part: { key: null, kind: 'line', name: '', category: '', page: '' },
  what: [],
  boxA: null,
  boxB: [x, y, x + 10, y + 10],
  size: 1,
});

test('it is there only while part of the page is out of sight', () => {
  expect(minimapIn(page, { scale: 0.3, x: 10, y: 10 }, 1000, 600)).toBeUndefined();
  expect(minimapIn(page, { scale: 2, x: -900, y: -400 }, 1000, 600)).toMatchObject({ width: 150, height: 75 });
  expect(minimapIn(page, { scale: 2, x: -900, y: -400 }, 300, 200)).toBeUndefined();
});

test('cells count the changes that stand in them', () => {
  const { counts, most, columns, rows } = density(
    [at(5, 5), at(20, 20), at(2995, 1495), { ...at(0, 0), boxB: null }],
    page,
  );
  expect([columns, rows, most, counts[0], counts[columns * rows - 1]]).toEqual([30, 15, 2, 2, 1]);
  expect(counts.reduce((sum, n) => sum + n, 0)).toBe(3);
});

test('a click on it brings that place to the middle', () => {
  const m = { scale: 2, x: -900, y: -400 };
  const map = minimapIn(page, m, 1000, 600)!;
  const to = throughMinimap(map, page, m, map.x + map.width / 2, map.y + map.height / 2, 1000, 600)!;
  expect([(500 - to.x) / to.scale, (300 - to.y) / to.scale]).toEqual([1500, 750]);
  expect(throughMinimap(map, page, m, 5, 5, 1000, 600)).toBeUndefined();
});
