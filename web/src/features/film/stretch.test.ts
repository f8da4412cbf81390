import { PAUSE } from '@ovrel/core/sittings';
import type { Mark } from '../rail/layout.ts';
import { nearest, stretchOf } from './stretch.ts';

const mark = (number: number, hour: number, kind: Mark['kind'] = 'autosave'): Mark => ({
  id: `v${number}`,
  number,
  kind,
  title: null,
  at: hour * 3_600_000,
  by: 'Tobias Renn',
  person: 'tobias',
  source: null,
});

// A check-in, a sitting of three saves, a check-in, and a sitting of two.
const line = [
  mark(1, 1, 'check-in'),
  mark(2, 2),
  mark(3, 2.1),
  mark(4, 2.2),
  mark(5, 8, 'check-in'),
  mark(6, 9),
  mark(7, 9.1),
];
const numbersOf = (marks: readonly Mark[]): number[] => marks.map(({ number }) => number);

test('a sitting is played by its last save, or save by save', () => {
  expect(numbersOf(stretchOf(line, { pause: PAUSE, eachSave: false }))).toEqual([1, 4, 5, 7]);
  expect(numbersOf(stretchOf(line, { pause: PAUSE, eachSave: true }))).toEqual([1, 2, 3, 4, 5, 6, 7]);
});

test('what is compared is played from its older to its newer end, whichever is A', () => {
  expect(numbersOf(stretchOf(line, { pause: PAUSE, eachSave: false, ends: ['v2', 'v5'] }))).toEqual([4, 5]);
  expect(numbersOf(stretchOf(line, { pause: PAUSE, eachSave: true, ends: ['v5', 'v3'] }))).toEqual([3, 4, 5]);
});

test('an end that lies on another line is played from the beginning', () => {
  expect(numbersOf(stretchOf(line, { pause: PAUSE, eachSave: false, ends: ['elsewhere', 'v5'] }))).toEqual([1, 4, 5]);
});

test('a save within a sitting stands where its sitting ends; one after the last, at the last', () => {
  const played = stretchOf(line, { pause: PAUSE, eachSave: false });
  expect(nearest(played, 'v5', line)).toBe(2);
  expect(nearest(played, 'v3', line)).toBe(1);
  expect(nearest(played.slice(0, 3), 'v7', line)).toBe(2);
});
