import type { Who } from '../../contract/api.ts';
import { emptyFilter, passes } from './filter.ts';
import { touchersOf } from './useWho.ts';

const ines = { id: 'i', name: 'Ines' };
const jory = { id: 'j', name: 'Jory' };
const who: Who = {
  versions: [
    { number: 4, by: ines },
    { number: 5, by: jory },
    { number: 6, by: ines },
  ],
  touched: { c1: [0, 2], c2: [1], c3: [], c4: [0, 1] },
  sentence: null,
};

test('people with the versions in which they touched a part, in the order of their first touch', () => {
  expect(touchersOf(who, 'c1')).toEqual([{ ...ines, versions: [4, 6] }]);
  expect(touchersOf(who, 'c4')).toEqual([
    { ...ines, versions: [4] },
    { ...jory, versions: [5] },
  ]);
  expect(touchersOf(who, 'c3')).toEqual([]);
  expect(touchersOf(who, 'unknown')).toEqual([]);
});

test('a filter by person lets through what that person touched, alone or with others', () => {
  const change = {
    id: 'c',
    kind: 'moved' as const,
    part: { key: null, kind: 'line', name: '', category: '', page: '' },
    what: [],
    boxA: null,
    boxB: null,
    size: 0,
  };
  const shown = (person: string): string[] =>
    Object.keys(who.touched).filter((id) => passes({ ...change, id }, { ...emptyFilter, person }, touchersOf(who, id)));
  expect(shown('i')).toEqual(['c1', 'c4']);
  expect(shown('j')).toEqual(['c2', 'c4']);
  expect(shown('nobody')).toEqual([]);
});
