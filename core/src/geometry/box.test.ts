import { boxAround, centreX, centreY, diagonal, gap, height, unite, width, type Box } from './box.ts';
import { Hash, hashBytes, hashText } from './hash.ts';
import { letteringBox } from './lettering.ts';
import { identity, inverse, multiply, parseTransform, scaleOf } from './matrix.ts';

const sheet: Box = [10, 20, 110, 70];

test('a box has sides, a middle and a diagonal', () => {
  expect([width(sheet), height(sheet), centreX(sheet), centreY(sheet)]).toEqual([100, 50, 60, 45]);
  expect(diagonal([0, 0, 3, 4])).toBe(5);
});

test('two boxes become one that holds both; none adds nothing', () => {
  expect(unite(sheet, [0, 30, 20, 90])).toEqual([0, 20, 110, 90]);
  expect(unite(sheet, undefined)).toBe(sheet);
  expect(unite(undefined, sheet)).toBe(sheet);
  expect(unite(undefined, undefined)).toBeUndefined();
});

test.each([
  ['overlap', [50, 30, 60, 40], 0],
  ['touch at a corner', [110, 70, 120, 80], 0],
  ['stand beside one another', [120, 20, 130, 70], 10],
  ['stand across a corner', [113, 74, 120, 80], 5],
] as const)('the gap between boxes that %s', (_, other, expected) => {
  expect(gap(sheet, other)).toBe(expected);
  expect(gap(other, sheet)).toBe(expected);
});

test('what is turned, scaled and moved lies in the box around it', () => {
  expect(boxAround(sheet, [2, 0, 0, 2, 5, 0])).toEqual([25, 40, 225, 140]);
  const turned = boxAround([0, 0, 10, 4], parseTransform('rotate(90)'));
  expect(turned.map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([-4, 0, 0, 10]);
  const m = parseTransform('translate(7 3) rotate(33) scale(2 0.5)');
  const there = boxAround(sheet, m);
  const back = boxAround(there, inverse(m)!);
  // Around a box that was turned there is more room, never less.
  expect(back[0]).toBeLessThanOrEqual(sheet[0] + 1e-9);
  expect(back[3]).toBeGreaterThanOrEqual(sheet[3] - 1e-9);
});

test('maps that are carried out one after the other are one map', () => {
  const m = parseTransform('translate(10 20) scale(2)');
  expect(multiply(m, identity)).toEqual(m);
  const back = multiply(m, inverse(m)!);
  back.forEach((v, i) => expect(v).toBeCloseTo(identity[i]!, 12));
  expect(scaleOf(m)).toBe(2);
  expect(inverse([0, 0, 0, 0, 1, 1])).toBeUndefined();
});

describe('room for words', () => {
  const words = (anchor: 'start' | 'middle' | 'end'): Parameters<typeof letteringBox>[0] =>
    ({
      runs: [{ text: 'Tickets', x: 100, y: 50 }],
      size: 10,
      anchor,
    }) as unknown as Parameters<typeof letteringBox>[0];

  test('stands where they are anchored', () => {
    const [start, middle, end] = (['start', 'middle', 'end'] as const).map((a) => letteringBox(words(a), identity)!);
    expect(start![0]).toBe(100);
    expect(centreX(middle!)).toBeCloseTo(100, 9);
    expect(end![2]).toBeCloseTo(100, 9);
    for (const box of [start!, middle!, end!]) expect(width(box)).toBeCloseTo(width(start!), 9);
    // Most of a letter stands above its line.
    expect(50 - start![1]).toBeGreaterThan(start![3] - 50);
  });

  test('grows with the letters and with the map, and is none where the map is broken', () => {
    const one = letteringBox(words('start'), identity)!;
    expect(width(letteringBox(words('start'), [3, 0, 0, 3, 0, 0])!)).toBeCloseTo(3 * width(one), 9);
    expect(letteringBox(words('start'), [NaN, 0, 0, 1, 0, 0])).toBeUndefined();
    expect(letteringBox({ ...words('start'), runs: [] }, identity)).toBeUndefined();
  });
});

describe('fingerprints', () => {
  test('are the same for the same, and differ by every letter and by their order', () => {
    const texts = ['', 'a', 'b', 'ab', 'ba', 'a\0b', 'Ferry', 'ferry'];
    expect(new Set(texts.map(hashText)).size).toBe(texts.length);
    for (const text of texts) expect(hashText(text)).toMatch(/^[0-9a-f]{16}$/);
    expect(new Hash().text('ab').digest()).toBe(hashText('ab'));
    expect(new Hash().text('a').text('b').digest()).not.toBe(hashText('ab'));
  });

  test('numbers count as far as they are told apart', () => {
    const of = (v: number): string => new Hash().number(v, 0.01).digest();
    expect(of(1.001)).toBe(of(1.004));
    expect(of(1.001)).not.toBe(of(1.011));
    // Large ones, too: half of their digits are not lost.
    expect(of(2 ** 40)).not.toBe(of(2 ** 41));
    expect(of(-3)).not.toBe(of(3));
  });

  test('of bytes do not depend on where in memory they lie', () => {
    const bytes = Uint8Array.from({ length: 1003 }, (_, i) => (i * 31) % 251);
    const shifted = new Uint8Array(1010).fill(7);
    for (const offset of [0, 1, 2, 3]) {
      shifted.set(bytes, offset);
      expect(hashBytes(shifted.subarray(offset, offset + bytes.length))).toBe(hashBytes(bytes));
    }
    const other = Uint8Array.from(bytes);
    other[1002] = 1 + (other[1002] as number);
    expect(hashBytes(other)).not.toBe(hashBytes(bytes));
    expect(hashBytes(bytes.subarray(0, 1002))).not.toBe(hashBytes(bytes));
  });
});
