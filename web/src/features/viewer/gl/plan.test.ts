import { arrange } from './arrange.ts';
import { planRuns } from './plan.ts';

/** Lines of the given lengths, beside one another from x = 0, 10 apart. */
const linesOf = (lengths: readonly number[]): ReturnType<typeof arrange> =>
  arrange({
    ends: new Float32Array(lengths.flatMap((length, i) => [10 * i, 0, 10 * i, length])),
    along: new Float32Array(lengths.length),
    style: new Uint16Array(lengths.length),
    part: new Uint32Array(lengths.map((_, i) => i)),
  });

const all = { x: 0, y: 0, scale: 1, width: 100_000, height: 100_000 };

/** Lengths in the order in which they are drawn. */
const drawnLengths = (arranged: ReturnType<typeof arrange>, sight: typeof all): number[] =>
  planRuns(arranged, [0, 0], sight).flatMap(({ first, count }) => [...arranged.lengths.slice(first, first + count)]);

test('long lines come before short ones, and each is drawn once', () => {
  expect(drawnLengths(linesOf([2, 100, 0.5, 30, 1, 8]), all)).toEqual([100, 30, 8, 2, 1, 0.5]);
});

test('what counts as long goes by the size on the screen', () => {
  const arranged = linesOf([100, 30]);
  const runs = (scale: number): number => planRuns(arranged, [0, 0], { ...all, scale }).length;
  expect(runs(1)).toBe(1);
  expect(runs(0.5)).toBe(2);
});

test('blocks out of sight are left out, wherever the scene has its origin', () => {
  const arranged = linesOf([50, 40]);
  expect(planRuns(arranged, [0, 0], { ...all, x: -200 })).toEqual([]);
  expect(planRuns(arranged, [0, 0], { ...all, y: 60, height: 50 })).toEqual([]);
  expect(planRuns(arranged, [500, 0], { ...all, x: -200 })).toHaveLength(1);
});

test('of specks that are smaller than a dot, only some of a block are drawn', () => {
  const specks = Array.from({ length: 1000 }, () => 0.001);
  const arranged = arrange({
    ends: new Float32Array(specks.flatMap((length, i) => [i / 1000, 0, i / 1000, length])),
    along: new Float32Array(1000),
    style: new Uint16Array(1000),
    part: new Uint32Array(1000),
  });
  const drawn = (scale: number): number =>
    planRuns(arranged, [0, 0], { ...all, scale }).reduce((sum, { count }) => sum + count, 0);
  expect(drawn(1)).toBe(64);
  expect(drawn(10_000)).toBe(1000);
});
