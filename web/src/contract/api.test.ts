import { compareQuerySchema, toleranceStep } from './api.ts';

test.each([
  [1, 1],
  [1.3, 1],
  [1.5, 2],
  [3, 2],
  [3.3, 5],
  [7.2, 10],
  [0.04, 0.05],
  [0.00012, 0.0001],
  [99, 100],
  [1e9, 1e9],
])('a tolerance of %d is taken as %d', (wanted, step) => expect(toleranceStep(wanted)).toBe(step));

test('asking with very many tolerances asks for few comparisons', () => {
  const ids = { a: '00000000-0000-4000-8000-000000000001', b: '00000000-0000-4000-8000-000000000002' };
  const all = Array.from({ length: 1000 }, (_, i) =>
    compareQuerySchema.parse({ ...ids, tolerance: `${0.01 + i / 100}` }),
  );
  expect(new Set(all.map((query) => query.tolerance)).size).toBeLessThanOrEqual(11);
  expect(compareQuerySchema.parse(ids).tolerance).toBeUndefined();
});
