import { isFiltering, NO_FILTER, queryOf, toggled } from './filter.ts';

test('nothing is asked of the server where nothing is filtered', () => {
  expect(isFiltering(NO_FILTER)).toBe(false);
  expect(Object.values(queryOf(NO_FILTER)).every((value) => value === undefined)).toBe(true);
  expect(isFiltering({ ...NO_FILTER, words: '  ' })).toBe(false);
});

test('kinds are turned off and on again, and asked for by their names', () => {
  const without = toggled(toggled(NO_FILTER, 'autosave'), 'backup');
  expect(isFiltering(without)).toBe(true);
  expect(queryOf({ ...without, words: ' deck  east ', from: '2026-10-01' })).toMatchObject({
    kinds: 'keeper,check-in',
    words: 'deck  east',
    from: '2026-10-01',
  });
  expect(isFiltering(toggled(toggled(without, 'autosave'), 'backup'))).toBe(false);
});
