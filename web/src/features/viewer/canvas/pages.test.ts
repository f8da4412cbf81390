import { around, boxesOf, firstTouched, pageShown } from './pages.ts';
import type { ComparisonResponse, VersionDetail } from '../../../contract/api.ts';

const pages = (names: readonly string[]): { name: string; box: number[] }[] =>
  names.map((name) => ({ name, box: [0, 0, 1, 1] }));
const result = (a: readonly string[], b: readonly string[], touched: readonly string[] = []): ComparisonResponse =>
  ({
    picture: { pages: { a: pages(a), b: pages(b) } },
    comparison: { changes: touched.map((page) => ({ part: { page } })) },
  }) as unknown as ComparisonResponse;

test('pages that only A has come after those of B, and have no place in B', () => {
  const both = result(['plan', 'roof'], ['plan', 'section']);
  expect(pageShown(undefined, both, true, 'roof')).toEqual({
    names: ['plan', 'section', 'roof'],
    page: 'roof',
    atA: 1,
    atB: undefined,
  });
  expect(pageShown(undefined, both, true, 'gone').page).toBe('plan');
});

test('one version shows its own pages', () => {
  const detail = { look: { pages: ['plan', 'section'] } } as unknown as VersionDetail;
  expect(pageShown(detail, undefined, false, 'section')).toMatchObject({ names: ['plan', 'section'], atB: 1 });
  expect(pageShown(undefined, undefined, false, undefined)).toMatchObject({ names: [], page: undefined });
});

test('a set of sheets opens where something changed', () => {
  expect(firstTouched(result(['1', '2', '3'], ['1', '2', '3'], ['3']))).toBe('3');
  expect(firstTouched(result(['1'], ['1'], ['1']))).toBeUndefined();
});

test('what a change touches', () => {
  expect(
    around(boxesOf({ boxA: [0, 0, 2, 2], boxB: [1, -3, 1.5, 1] } as unknown as Parameters<typeof boxesOf>[0])),
  ).toEqual([0, -3, 2, 2]);
  expect(around([])).toBeUndefined();
});
