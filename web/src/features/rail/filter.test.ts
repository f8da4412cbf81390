import { NO_FILTER, toggled } from '../filter/filter.ts';
import { shownMarks } from './filter.ts';
import type { Mark } from './layout.ts';

const mark = (number: number, day: string, more: Partial<Mark> = {}): Mark => ({
  id: `v${number}`,
  number,
  kind: 'check-in',
  title: null,
  at: Date.parse(`${day}T23:30:00Z`),
  by: 'Ines',
  person: 'ines',
  source: null,
  ...more,
});
const marks = [
  mark(1, '2026-10-01'),
  mark(2, '2026-10-02', { kind: 'autosave', person: 'tobias' }),
  mark(3, '2026-10-03', { kind: 'autosave', title: 'Agreed' }),
  mark(4, '2026-10-04', { kind: 'backup' }),
];
const shown = (...rest: Parameters<typeof shownMarks> extends [unknown, ...infer R] ? R : never): number[] =>
  shownMarks(marks, ...rest).map(({ number }) => number);

test('without a filter all is shown; a version with a title is a keeper, whatever it was before', () => {
  expect(shown(NO_FILTER, undefined, [])).toEqual([1, 2, 3, 4]);
  expect(shown(toggled(NO_FILTER, 'autosave'), undefined, [])).toEqual([1, 3, 4]);
  expect(shown(toggled(NO_FILTER, 'keeper'), undefined, [])).toEqual([1, 2, 4]);
});

test('people, days with their ends, and words that the server found narrow it further', () => {
  expect(shown({ ...NO_FILTER, person: 'tobias' }, undefined, [])).toEqual([2]);
  expect(shown({ ...NO_FILTER, from: '2026-10-02', to: '2026-10-03' }, undefined, [])).toEqual([2, 3]);
  expect(shown(NO_FILTER, new Set(['v1', 'v4']), [])).toEqual([1, 4]);
});

test('what one looks at stays on the rail', () => {
  expect(shown({ ...NO_FILTER, person: 'tobias' }, undefined, ['v4'])).toEqual([2, 4]);
});
