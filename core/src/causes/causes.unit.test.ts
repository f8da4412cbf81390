/** Sentences are made of the same few pieces; numbers, weights and counts are given once, for all kinds. */
import type { CauseDraft, ChangeDraft } from './draft.ts';
import { withChanges } from './draft.ts';
import { assemble } from './assemble.ts';
import {
  capital,
  pluralOf,
  quoted,
  quotedList,
  sayDecimal,
  sayNumber,
  sayPart,
  sayShift,
  sayThose,
  several,
  short,
  uncapital,
} from './phrases.ts';

describe('pieces of sentences', () => {
  test.each([
    [0, '0'],
    [-0.0000000001, '0'],
    [-350, '−350'],
    [12.345678, '12.346'],
    [1234.56, '1234.6'],
    [0.000123456, '0.00012346'],
  ])('the number %d is said %s', (n, says) => expect(sayNumber(n)).toBe(says));

  test('decimals are cut, shifts have their unit', () => {
    expect(sayDecimal(1.005, 1)).toBe('1');
    expect(sayDecimal(-2.26, 1)).toBe('−2.3');
    expect(sayShift({ dx: 120, dy: -9.5, unit: 'mm' })).toBe('(120, −9.5) mm');
    expect(sayShift({ dx: 1, dy: 2, unit: '' })).toBe('(1, 2)');
  });

  test('names are quoted, long ones cut, missing ones said', () => {
    expect(quoted('hatch')).toBe('“hatch”');
    expect(quoted('')).toBe('without a name');
    expect(quoted('x'.repeat(80))).toBe(`“${'x'.repeat(59)}…”`);
    expect(short(`two\n  lines ${'x'.repeat(60)}`, 20)).toHaveLength(20 - 2);
  });

  test('parts are said with their kind, once', () => {
    expect(sayPart('circle', 'hatch')).toBe('circle “hatch”');
    expect(sayPart('circle', '')).toBe('one circle');
    expect(sayPart('circle', 'circle')).toBe('one circle');
    expect(sayPart('text', 'text “P06”')).toBe('text “P06”');
    expect(sayThose({ count: 24, kind: 'circle' })).toBe('24 circles');
    expect(sayThose({ count: 1, kind: 'circle', name: 'hatch' })).toBe('Circle “hatch”');
  });

  test('several of a kind, also of kinds that are not regular', () => {
    expect(['hatch', 'box', 'class', 'viewport'].map(pluralOf)).toEqual(['hatches', 'boxes', 'classes', 'viewports']);
    expect(several(3201, 'hatch')).toBe('3,201 hatches');
  });

  test('lists end with “and”, long ones with how many more', () => {
    expect(quotedList([])).toBe('');
    expect(quotedList(['a'])).toBe('“a”');
    expect(quotedList(['a', 'b', 'c'])).toBe('“a”, “b” and “c”');
    expect(quotedList(['a', 'b', 'c', 'd', 'e'])).toBe('“a”, “b”, “c” and 2 more');
  });

  test('sentences begin large, what follows them small', () => {
    expect([capital('gate'), uncapital('Gate'), capital('')]).toEqual(['Gate', 'gate', '']);
  });
});

const change = (kind: ChangeDraft['kind']): ChangeDraft => ({
  kind,
  part: { key: null, kind: 'line', name: '', category: '', page: '', index: 0 },
  what: [],
  boxA: null,
  boxB: null,
  size: 0,
});
const came = (verb: 'added' | 'removed', lines: number, changes: readonly number[]): CauseDraft => ({
  kind: verb,
  saying: { code: 'lines-came', values: { lines, verb } },
  changes,
});

describe('put together', () => {
  const made = assemble({
    changes: [change('added'), change('removed'), change('removed'), change('changed')],
    causes: [
      { ...came('added', 1, [0]), weight: 1 },
      came('removed', 2, [1, 2]),
      { kind: 'lines', saying: { code: 'lines-changed', values: { lines: 1 } }, changes: [3] },
    ],
    unchanged: 9,
    notes: [],
  });

  test('changes and causes are numbered, and point at one another', () => {
    expect(made.changes.map((c) => c.id)).toEqual(['c1', 'c2', 'c3', 'c4']);
    expect(made.causes.map((c) => c.id)).toEqual(['k1', 'k2', 'k3']);
    expect(made.causes.map((c) => c.changes)).toEqual([['c2', 'c3'], ['c4'], ['c1']]);
  });

  test('the heaviest cause is first; a weight of its own counts for more than its kind', () => {
    expect(made.causes.map((c) => c.weight)).toEqual([12.5, 8, 1]);
    expect(made.causes[0]!.sentence).toBe('2 lines removed');
  });

  test('changes are counted by kind', () =>
    expect(made.counts).toEqual({ added: 1, removed: 2, changed: 1, moved: 0, unchanged: 9 }));
});

test('causes follow their changes into a longer list, and go with the last of them', () => {
  const causes = [came('added', 2, [0, 1]), { ...came('removed', 1, [2]), parts: 7 }, came('added', 0, [])];
  const moved = withChanges(causes, (k) => (k === 1 ? undefined : k + 10));
  expect(moved.map((c) => c.changes)).toEqual([[10], [12], []]);
  expect(moved[1]!.parts).toBe(7);
  expect(withChanges(causes, () => undefined).map((c) => c.changes)).toEqual([[]]);
});
