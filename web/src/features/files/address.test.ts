import { lineOf, namedIn, pointsOf, queryOf } from './address.ts';

const id = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
// Version 3 was erased: numbers have gaps.
const points = [1, 2, 4, 5].map((number) => ({
  id: id(number),
  number,
  title: number === 2 || number === 4 ? 'As agreed' : null,
}));
const lines = [
  { id: id(100), position: 0 },
  { id: id(101), position: 1 },
];

const read = (query: string): { a: number; b: number; newest: number } | undefined => {
  const asked = new URLSearchParams(query);
  const found = pointsOf((name) => asked.get(name), points);
  return found && { a: found.a.number, b: found.b.number, newest: found.newest.number };
};

test('without anything, the newest version', () => {
  expect(read('')).toEqual({ a: 5, b: 5, newest: 5 });
  expect(pointsOf(() => null, [])).toBeUndefined();
});

test('versions by id', () => {
  expect(read(`v=${id(2)}`)).toEqual({ a: 2, b: 2, newest: 5 });
  expect(read(`a=${id(1)}&b=${id(4)}`)).toEqual({ a: 1, b: 4, newest: 5 });
});

test('old links by number go on working, across gaps', () => {
  expect(read('v=2')).toEqual({ a: 2, b: 2, newest: 5 });
  expect(read('a=2&b=4')).toEqual({ a: 2, b: 4, newest: 5 });
});

test('a title is a name, too: of several the newest is meant', () => {
  expect(read('v=As+agreed')).toEqual({ a: 4, b: 4, newest: 5 });
  expect(read('v=as+never+agreed')).toEqual({ a: 5, b: 5, newest: 5 });
});

test('a version that is not there is passed over', () => {
  expect(read('v=3')).toEqual({ a: 5, b: 5, newest: 5 });
  expect(read(`a=${id(77)}&b=${id(4)}`)).toEqual({ a: 4, b: 4, newest: 5 });
  expect(read('a=-1&b=none')).toEqual({ a: 5, b: 5, newest: 5 });
});

test('lines by id and by position', () => {
  const line = (query: string): string => lineOf((name) => new URLSearchParams(query).get(name), lines, id(100));
  expect(line('')).toBe(id(100));
  expect(line('line=1')).toBe(id(101));
  expect(line(`line=${id(101)}`)).toBe(id(101));
  expect(line('line=7')).toBe(id(100));
});

test('what is written is read again', () => {
  const plain = { line: undefined, newest: id(5), look: 'overlay', other: undefined, proposal: undefined };
  expect(queryOf({ ...plain, a: id(5), b: id(5) })).toBe('');
  expect(queryOf({ ...plain, a: id(2), b: id(2) })).toBe(`v=${id(2)}`);
  expect(queryOf({ ...plain, a: id(2), b: id(4), look: 'side' })).toBe(`a=${id(2)}&b=${id(4)}&look=side`);
  expect(queryOf({ ...plain, line: id(101), a: id(2), b: id(4) })).toBe(`line=${id(101)}&a=${id(2)}&b=${id(4)}`);
  expect(queryOf({ ...plain, a: id(5), b: id(5), other: id(9) })).toBe(`with=${id(9)}`);
  expect(read(queryOf({ ...plain, a: id(1), b: id(4) }))).toEqual({ a: 1, b: 4, newest: 5 });
});

test('the version that a link names by id', () => {
  expect(namedIn((name) => (name === 'v' ? id(4) : null))).toBe(id(4));
  expect(namedIn((name) => (name === 'v' ? '4' : null))).toBeUndefined();
});
