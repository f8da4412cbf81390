import type { ComparisonResponse } from '../../contract/api.ts';
import { pagesOf } from './PageList.tsx';

const change = (page: string, kind: string): unknown => ({ kind, part: { page } });

test('every page with what happened to it, pages of A alone at the end', () => {
  const result = {
    picture: { pages: { a: [], b: [{ name: 'Page 1' }, { name: 'Page 2' }, { name: 'Page 3' }] } },
    comparison: {
      changes: [change('Page 2', 'changed'), change('Page 3', 'added'), change('Page 2 of A', 'removed')],
      causes: [
        { code: 'page-came', values: { name: 'Page 3', verb: 'added' } },
        { code: 'page-came', values: { name: 'Page 2 of A', verb: 'removed' } },
      ],
    },
  } as unknown as ComparisonResponse;
  expect(pagesOf(result)).toEqual([
    { name: 'Page 1', state: 'same' },
    { name: 'Page 2', state: 'changed' },
    { name: 'Page 3', state: 'added' },
    { name: 'Page 2 of A', state: 'removed' },
  ]);
});

test('a page on which a part was only added is changed, not added', () => {
  const result = {
    picture: { pages: { a: [], b: [{ name: 'Page 1' }] } },
    comparison: { changes: [change('Page 1', 'added')], causes: [] },
  } as unknown as ComparisonResponse;
  expect(pagesOf(result)).toEqual([{ name: 'Page 1', state: 'changed' }]);
});
