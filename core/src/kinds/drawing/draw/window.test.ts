import { Clip } from './window.ts';

const areaOf = (corners: readonly number[]): number => {
  let sum = 0;
  for (let i = 0; i < corners.length; i += 6)
    sum +=
      Math.abs(
        (corners[i + 2]! - corners[i]!) * (corners[i + 5]! - corners[i + 1]!) -
          (corners[i + 4]! - corners[i]!) * (corners[i + 3]! - corners[i + 1]!),
      ) / 2;
  return sum;
};

describe('an upright window', () => {
  const clip = new Clip({ box: [10, 10, 30, 20] }, 10, 10);

  test('lines are cut at its border', () => {
    expect(clip.line(-10, 5, 30, 5)).toEqual([[0.25, 0.75]]);
    expect(clip.line(0, 30, 20, 30)).toEqual([]);
    expect(clip.line(1, 1, 19, 9)).toEqual([[0, 1]]);
  });

  test('areas are cut at its border', () => {
    expect(areaOf(clip.triangle([-100, -100, 300, -100, -100, 300]))).toBeCloseTo(200, 6);
    expect(areaOf(clip.triangle([10, 5, 30, 5, 10, -15]))).toBeCloseTo(50, 6);
    expect(clip.triangle([50, 50, 60, 50, 50, 60])).toEqual([]);
  });
});

describe('a window with a corner cut out', () => {
  // An L: 100 by 100 without its upper right quarter.
  const clip = new Clip({ box: [0, 0, 100, 100], outline: [0, 0, 100, 0, 100, 50, 50, 50, 50, 100, 0, 100] }, 0, 0);

  test('knows what it shows', () => {
    expect([clip.has(25, 75), clip.has(75, 25), clip.has(75, 75), clip.has(-1, 5)]).toEqual([true, true, false, false]);
  });

  test('a line through both arms is seen in two pieces, or one', () => {
    const [[from, to] = [0, 0], ...more] = clip.line(0, 75, 100, 75);
    expect([from, to, more.length]).toEqual([0, 0.5, 0]);
    expect(clip.line(0, 120, 120, 0).map(([p, q]) => [Number(p.toFixed(4)), Number(q.toFixed(4))])).toEqual([
      [0.1667, 0.4167],
      [0.5833, 0.8333],
    ]);
    expect(clip.line(10, 10, 90, 40)).toEqual([[0, 1]]);
  });

  test('an area over all of it leaves just that', () =>
    expect(areaOf(clip.triangle([-500, -500, 500, -500, 0, 900]))).toBeCloseTo(7500, 6));
});
