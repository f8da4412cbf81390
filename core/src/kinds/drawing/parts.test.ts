import { designOf } from '../../testing.ts';
import type { Design } from '../../model/design.ts';
import { sameCategories } from './categories.ts';
import { firstDifference } from '../bytes/compare.ts';
import { motionBetween } from '../../match/motion.ts';
import { plural } from '../../text/plural.ts';
import { say, sayShift } from './say.ts';
import type { Cause } from '../../contract/comparison.ts';
import { summarise } from '../../causes/summary.ts';
import { similarity } from '../../text/similarity.ts';
import { wordRuns } from '../../text/words.ts';

const design = (inner: string): Design => designOf(`<svg viewBox="0 0 100 100">${inner}</svg>`, 'x.svg');

describe('motion', () => {
  const shape = 'M10 10 L30 10 L30 18 L14 25 Z';
  const motion = (transform: string, d = shape) => {
    const a = design(`<path d="${shape}"/>`);
    const b = design(`<path transform="${transform}" d="${d}"/>`);
    return motionBetween(a, a.parts[0]!, b, b.parts[0]!, 1e-6);
  };

  test('a shift', () =>
    expect(motion('translate(7 -3)')).toMatchObject({
      dx: expect.closeTo(7),
      dy: expect.closeTo(-3),
      turn: expect.closeTo(0),
      scale: expect.closeTo(1),
      mirrored: false,
    }));
  test('a turn', () =>
    expect(motion('rotate(33 20 20)')).toMatchObject({
      turn: expect.closeTo(33),
      scale: expect.closeTo(1),
      mirrored: false,
    }));
  test('a change of size', () =>
    expect(motion('scale(1.5)')).toMatchObject({ scale: expect.closeTo(1.5), turn: expect.closeTo(0) }));
  test('a mirror image', () =>
    expect(motion('matrix(-1 0 0 1 60 0)')).toMatchObject({ mirrored: true, scale: expect.closeTo(1) }));
  test('none for another shape, or another number of points', () => {
    expect(motion('', 'M10 10 L30 10 L30 19 L14 25 Z')).toBeUndefined();
    expect(motion('', 'M10 10 L30 10 L30 18 Z')).toBeUndefined();
  });
});

test.each([
  [1, '1'],
  [1.5, '1.5'],
  [1.005, '1'],
  [-3, '−3'],
  [-0.001, '0'],
  [1 / 3, '0.33'],
])('%d is said %s', (n, text) => expect(say(n)).toBe(text));
test('a tiny shift is not said to be zero', () =>
  expect([sayShift(0.002), sayShift(-0.0004), sayShift(0)]).toEqual(['0.002', '−0.0004', '0']));
test('numbers agree with their words', () =>
  expect([plural(1, 'part'), plural(2, 'part'), plural(12_345, 'entity', 'entities')]).toEqual([
    '1 part',
    '2 parts',
    '12,345 entities',
  ]));

describe('summary', () => {
  const cause = (sentence: string, kind: Cause['kind'] = 'style'): Cause => ({
    id: 'k',
    kind,
    code: 'look-changed',
    values: {},
    sentence,
    weight: 1,
    parts: 1,
    changes: ['c1'],
  });
  const counts = { added: 0, removed: 0, changed: 1, moved: 0, unchanged: 0 };
  const sum = (...causes: Cause[]): string => summarise('parts', [], counts, causes);

  test('names the heaviest causes and counts the rest', () => {
    expect(sum()).toBe('No change');
    expect(sum(cause('Deck moved'))).toBe('Deck moved');
    expect(sum(cause('a'), cause('b'), cause('c'), cause('d'), cause('e'))).toBe('a; b; c; and 2 other causes');
  });

  test('is one line of bearable length', () => {
    const long = 'x'.repeat(120);
    expect(sum(cause(long), cause(long))).toBe(`${long}; and 1 other cause`);
    expect(sum(cause('y'.repeat(400))).length).toBeLessThanOrEqual(140);
  });

  test('numbering is said only where nothing else is', () => {
    expect(sum(cause('Everything renumbered, nothing else', 'renumbered'))).toBe('Everything renumbered, nothing else');
    expect(sum(cause('Deck moved'), cause('Everything renumbered', 'renumbered'))).toBe('Deck moved');
  });
});

test('groups: renumbered ids are the same group, labels are not', () => {
  const pair = (a: string, b: string): boolean => {
    const x = design(a);
    const y = design(b);
    const n = x.parts.length;
    return sameCategories(x, y, {
      toB: Int32Array.from({ length: n }, (_, i) => i),
      toA: Int32Array.from({ length: n }, (_, i) => i),
      keysTrusted: false,
      renumbered: false,
    })(x.parts[0]!.category, y.parts[0]!.category);
  };
  const rects = '<rect width="1" height="1"/><rect width="2" height="2"/>';
  expect(pair(`<g id="walls">${rects}</g>`, `<g id="mauern">${rects}</g>`)).toBe(true);
  expect(pair(`<g data-name="Walls">${rects}</g>`, `<g data-name="Doors">${rects}</g>`)).toBe(false);
});

test('bytes: where contents first differ', () => {
  const at = (a: number[], b: number[]): number => firstDifference(Uint8Array.from(a), Uint8Array.from(b));
  expect([at([1, 2], [1, 2]), at([1, 2], [1, 3]), at([1], [1, 2]), at([], []), at([], [1])]).toEqual([-1, 1, 1, -1, 0]);
});

test('likeness of texts: equal, near, unlike', () => {
  expect(similarity('pier', 'pier')).toBe(1);
  expect(similarity('the northern pier', 'the northern piers')).toBeGreaterThan(0.9);
  expect(similarity('pier', 'crane')).toBeLessThan(0.3);
  expect(similarity('', 'x')).toBe(0);
});

test('words that differ are told from those that do not', () => {
  const marked = (runs: { text: string; differs: boolean }[]): string =>
    runs.map((r) => (r.differs ? `[${r.text}]` : r.text)).join('');
  const { a, b } = wordRuns('Drive the twelve outer piles.', 'Drive the twenty piles, slowly.');
  expect(marked(a)).toBe('Drive the [twelve outer ]piles.');
  expect(marked(b)).toBe('Drive the [twenty ]piles[, slowly].');
  expect(wordRuns('same', 'same').a).toEqual([{ text: 'same', differs: false }]);
});
