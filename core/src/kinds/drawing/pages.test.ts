import type { Design, Part } from '../../model/design.ts';
import { emptyGeometry } from '../../model/design.ts';
import { paged, pageList, pairPages } from './pages.ts';

/** Each page is a list of words, beside a frame that all have. */
function book(...pages: string[][]): Design {
  const part = (page: number, kind: string, text: string | undefined): Part => ({
    key: undefined,
    kind,
    name: text ?? kind,
    parents: [],
    category: '',
    categoryIsKey: false,
    page,
    firstSubpath: 0,
    subpaths: 0,
    box: [0, 0, 800, 500],
    transform: [1, 0, 0, 1, 0, 0],
    props: {},
    span: [0, 0],
    ...(text === undefined
      ? {}
      : { lettering: { runs: [{ text, x: 0, y: 0 }], size: 10, family: '', weight: '', anchor: 'start' as const } }),
  });
  return {
    format: 'pdf',
    traits: { pagesMove: true },
    origin: {},
    pages: pages.map((_, k) => ({ name: `Page ${k + 1}`, box: [0, 0, 800, 500] })),
    parts: pages.flatMap((words, k) => [part(k, 'path', undefined), ...words.map((w) => part(k, 'text', w))]),
    definitions: [],
    geometry: emptyGeometry,
    notes: [],
    sequential: false,
  };
}

const sheet = (name: string, revision = 'P01'): string[] => [
  name,
  `${name} notes`,
  `${name} scale`,
  `${name} detail A`,
  `${name} detail B`,
  `Revision ${revision}`,
];

test('pages that stayed, though all of them say another revision', () =>
  expect(
    pairPages(
      book(sheet('Plan'), sheet('Gangway'), sheet('Signs')),
      book(sheet('Plan', 'P02'), sheet('Gangway', 'P02'), sheet('Signs', 'P02')),
    ),
  ).toEqual([0, 1, 2]));
test('a page put in shifts the rest', () =>
  expect(
    pairPages(
      book(sheet('Plan'), sheet('Gangway'), sheet('Signs')),
      book(sheet('Plan'), sheet('Details'), sheet('Gangway'), sheet('Signs')),
    ),
  ).toEqual([0, 2, 3]));
test('a page taken out', () =>
  expect(
    pairPages(book(sheet('Plan'), sheet('Gangway'), sheet('Signs')), book(sheet('Plan'), sheet('Signs', 'P02'))),
  ).toEqual([0, -1, 1]));
test('a page that went to the end', () =>
  expect(
    pairPages(
      book(sheet('Plan'), sheet('Gangway'), sheet('Signs')),
      book(sheet('Gangway'), sheet('Signs'), sheet('Plan', 'P03')),
    ),
  ).toEqual([2, 0, 1]));
test('a page drawn anew between two that stayed is the same page', () =>
  expect(
    pairPages(book(sheet('Plan'), ['old'], sheet('Signs')), book(sheet('Plan'), ['altogether', 'new'], sheet('Signs'))),
  ).toEqual([0, 1, 2]));
test('pages that are all alike stay in order', () =>
  expect(pairPages(book(['x'], ['x'], ['x']), book(['x'], ['x'], ['x'], ['x']))).toEqual([0, 1, 2]));

test('A is seen in the order of B, and each page still knows where it stood', () => {
  const a = book(sheet('Plan'), sheet('Gangway'), sheet('Signs'));
  const b = book(sheet('Signs'), sheet('Details'), sheet('Plan'));
  const seen = paged(a, b);
  expect(seen.pages.map((p) => [p.name, p.place])).toEqual([
    ['Page 1', 2],
    ['Page 2', -1],
    ['Page 3', 0],
    ['Page 2 of A', 1],
  ]);
  expect(seen.parts.filter((p) => p.name.startsWith('Gangway')).every((p) => p.page === 3)).toBe(true);
});

test('of 300 sheets with ten put in and five moved, nearly all find their pair', () => {
  const names = Array.from({ length: 300 }, (_, k) => `Sheet ${(k * 7919) % 1000} ${k}`);
  const next = [...names];
  for (const k of [5, 60, 61, 120, 200]) next.splice(280, 0, ...next.splice(k, 1));
  for (let k = 0; k < 10; k++) next.splice(k * 29, 0, `New ${k}`);
  const pairs = pairPages(book(...names.map((n) => sheet(n))), book(...next.map((n) => sheet(n, 'P02'))));
  expect(pairs.filter((j, i) => next[j] === names[i]).length).toBeGreaterThanOrEqual(297);
});

test('which pages changed, in B’s order, those that are gone at the end', () => {
  const a = book(sheet('Plan'), sheet('Gangway'), sheet('Signs'));
  const b = book(sheet('Signs'), [...sheet('Plan'), 'one note more'], sheet('Details'));
  expect(pageList(a, b).map((p) => [p.name, p.state, p.was])).toEqual([
    ['Page 1', 'same', 2],
    ['Page 2', 'changed', 0],
    ['Page 3', 'added', null],
    ['Page 2 of A', 'removed', 1],
  ]);
});
