import { countByDay, monthAfter, monthOf, weeksOf } from './month.ts';

test('weeks begin on Monday and hold every day of the month once', () => {
  // 1 October 2026 is a Thursday; 1 February 2027 a Monday, and that month has four whole weeks.
  const october = weeksOf('2026-10');
  expect(october[0]).toEqual([null, null, null, '2026-10-01', '2026-10-02', '2026-10-03', '2026-10-04']);
  expect(october.flat().filter(Boolean)).toHaveLength(31);
  expect(october.every((week) => week.length === 7)).toBe(true);
  expect(weeksOf('2027-02')).toHaveLength(4);
  expect(weeksOf('2028-02').flat()).toContain('2028-02-29');
});

test('months follow one another over the end of the year', () => {
  expect([monthAfter('2026-12', 1), monthAfter('2026-01', -1)]).toEqual(['2027-01', '2025-12']);
  expect(monthOf('2026-10-31T23:59:59Z')).toBe('2026-10');
});

test('moments are counted by their day in UTC', () => {
  const counts = countByDay([Date.UTC(2026, 9, 1, 23, 59), Date.UTC(2026, 9, 1), Date.UTC(2026, 9, 2)]);
  expect([...counts]).toEqual([
    ['2026-10-01', 2],
    ['2026-10-02', 1],
  ]);
});
