import { wanted } from './ahead.ts';

test('what is shown comes first, then the next ones in the direction of travel, then one step back', () => {
  expect(wanted(20, true).slice(0, 5)).toEqual([20, 21, 22, 19, 23]);
  expect(wanted(20, false).slice(0, 5)).toEqual([20, 19, 18, 21, 17]);
});

test('each place is asked for once', () => {
  const places = wanted(20, true);
  expect(new Set(places).size).toBe(places.length);
  expect([Math.min(...places), Math.max(...places)]).toEqual([16, 32]);
});
