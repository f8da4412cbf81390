import { plural } from './plural.ts';
import { similarity } from './similarity.ts';
import { wordRuns } from './words.ts';

test.each([
  [1, 'part', undefined, '1 part'],
  [0, 'part', undefined, '0 parts'],
  [3201, 'part', undefined, '3,201 parts'],
  [2, 'hatch', 'hatches', '2 hatches'],
])('%d %s', (n, one, many, says) => expect(plural(n, one, many)).toBe(says));

describe('how alike two texts are', () => {
  test('goes from nothing in common to the same', () => {
    expect(similarity('Ferry', 'Ferry')).toBe(1);
    expect(similarity('', '')).toBe(1);
    expect(similarity('Ferry', 'pylon')).toBe(0);
    expect(similarity('a', 'ab')).toBe(0);
  });

  test('does not depend on which is first, and falls with every letter that differs', () => {
    const texts = ['J2.1 47 × 200 C16', 'J2.1 47 × 200 C24', 'J2.3 63 × 225 C24', 'Gate 1200, opens seaward'];
    const [first, ...others] = texts;
    const all = others.map((text) => similarity(first!, text));
    expect(all).toEqual([...all].sort((p, q) => q - p));
    others.forEach((text, i) => expect(similarity(text, first!)).toBe(all[i]));
  });

  test('counts a pair of letters as often as both have it', () => {
    expect(similarity('aaaa', 'aa')).toBeCloseTo(0.5, 9);
  });
});

describe('the words that differ within a line', () => {
  const said = (runs: readonly { text: string; differs: boolean }[]): string =>
    runs.map((r) => (r.differs ? `[${r.text}]` : r.text)).join('');
  const between = (a: string, b: string): [string, string] => {
    const runs = wordRuns(a, b);
    expect(runs.a.map((r) => r.text).join('')).toBe(a);
    expect(runs.b.map((r) => r.text).join('')).toBe(b);
    return [said(runs.a), said(runs.b)];
  };

  test.each([
    ['the same', 'the same', 'the same', 'the same'],
    ['Lift at high water', 'Lift at low water', 'Lift at [high ]water', 'Lift at [low ]water'],
    ['one two', 'one two three', 'one [two]', 'one [two three]'],
    ['48 parts', '52 parts', '[48 ]parts', '[52 ]parts'],
    ['', 'new', '', '[new]'],
    ['Größe: 3 m', 'Größe: 4 m', 'Größe: [3 ]m', 'Größe: [4 ]m'],
  ])('%j, then %j', (a, b, inA, inB) => expect(between(a, b)).toEqual([inA, inB]));

  test('a line of very many words counts as different as a whole', () => {
    const long = 'word '.repeat(3000);
    expect(wordRuns(long, `${long}end`)).toEqual({
      a: [{ text: long, differs: true }],
      b: [{ text: `${long}end`, differs: true }],
    });
  });
});
