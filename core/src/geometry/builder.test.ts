import { ReadError } from '../model/problem.ts';
import { GeometryBuilder } from './builder.ts';
import { Hash } from './hash.ts';
import { parseTransform } from './matrix.ts';

const points = (b: GeometryBuilder): number[][] => {
  const { points: list, starts } = b.finish();
  return Array.from({ length: starts.length - 1 }, (_, k) => [
    ...list.subarray(2 * (starts[k] as number), 2 * (starts[k + 1] as number)),
  ]);
};

test('outlines one after the other, each from where it began', () => {
  const b = new GeometryBuilder(1000);
  b.moveTo(0, 0);
  b.lineTo(4, 0);
  b.moveTo(10, 10);
  b.lineTo(10, 14);
  b.lineTo(14, 14);
  expect(b.subpathCount).toBe(2);
  expect(points(b)).toEqual([
    [0, 0, 4, 0],
    [10, 10, 10, 14, 14, 14],
  ]);
});

test('points are kept as they are seen, through the matrix of the moment', () => {
  const b = new GeometryBuilder(1000);
  b.setMatrix(parseTransform('translate(100 0) scale(2)'));
  b.moveTo(1, 1);
  b.lineTo(2, 1);
  b.setMatrix(parseTransform('rotate(90)'));
  b.moveTo(1, 0);
  b.lineTo(2, 0);
  const [one = [], two = []] = points(b);
  expect(one).toEqual([102, 2, 104, 2]);
  expect(two.map((v) => Math.round(v * 1e9) / 1e9)).toEqual([0, 1, 0, 2]);
});

test('a curve is cut into as many pieces wherever it lies, and runs through its ends', () => {
  const curve = (dx: number): number[] => {
    const b = new GeometryBuilder(1000);
    b.moveTo(dx, 0);
    b.curveTo(dx, 10, dx + 10, 10, dx + 10, 0);
    return points(b)[0] ?? [];
  };
  const here = curve(0);
  const there = curve(500);
  expect(here.length).toBe(there.length);
  expect(here.slice(-2)).toEqual([10, 0]);
  // The highest point of this curve is at three quarters of its handles.
  expect(Math.max(...here.filter((_, k) => k % 2 === 1))).toBeCloseTo(7.5, 6);
  there.forEach((v, k) => expect(v - (k % 2 ? 0 : 500)).toBeCloseTo(here[k] as number, 9));
});

test('many outlines and many points find room', () => {
  const b = new GeometryBuilder(100_000);
  for (let k = 0; k < 3000; k++) {
    b.moveTo(k, 0);
    b.lineTo(k, 1);
    b.lineTo(k, 2);
  }
  const all = points(b);
  expect(all).toHaveLength(3000);
  expect(all[2999]).toEqual([2999, 0, 2999, 1, 2999, 2]);
});

test('more points than are allowed end the reading with a sentence', () => {
  const b = new GeometryBuilder(10);
  b.moveTo(0, 0);
  expect(() => {
    for (let k = 0; k < 2000; k++) b.lineTo(k, k);
  }).toThrow(ReadError);
});

describe('fingerprints', () => {
  const of = (...values: number[]): string => values.reduce((h, v) => h.number(v, 0.001), new Hash()).digest();

  test('equal for equal content, within the step', () => {
    expect(of(1, 2.0001, 3)).toBe(of(1, 2.0002, 3));
    expect(of(1, 2)).toMatch(/^[0-9a-f]{16}$/);
  });
  test('order, sign, size and words all count', () => {
    const all = [
      of(1, 2),
      of(2, 1),
      of(1, -2),
      of(1, 2, 0),
      of(5e9, 2),
      of(1e9, 2),
      new Hash().text('rail').digest(),
      new Hash().text('ra').text('il').digest(),
      new Hash().text('lair').digest(),
    ];
    expect(new Set(all).size).toBe(all.length);
  });
  test('a thousand neighbours have a thousand prints', () =>
    expect(new Set(Array.from({ length: 1000 }, (_, k) => of(k / 1000, 7))).size).toBe(1000));
});
