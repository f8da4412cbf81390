import type { Change } from '@ovrel/core/contract';
import { between, fit, flyTo, pan, zoomAt } from './camera.ts';
import { lineRows, withGaps } from './lines.ts';

describe('camera', () => {
  const whole = fit([0, 0, 200, 100], 1000, 800, 0);

  test('the whole page fits and stands in the middle', () => expect(whole).toEqual({ scale: 5, x: 0, y: 150 }));

  test('zooming keeps the point under the pointer, and has bounds', () => {
    const near = zoomAt(whole, 2, 300, 400, whole);
    expect([(300 - near.x) / near.scale, (400 - near.y) / near.scale]).toEqual([
      (300 - whole.x) / whole.scale,
      (400 - whole.y) / whole.scale,
    ]);
    expect(zoomAt(whole, 1e9, 0, 0, whole).scale).toBe(2000);
    expect(zoomAt(whole, 1e-9, 0, 0, whole).scale).toBe(0.625);
  });

  test('a flight begins and ends where it should, with the target in the middle', () => {
    const there = flyTo([90, 40, 110, 60], whole, 1000, 800);
    expect(100 * there.scale + there.x).toBeCloseTo(500);
    expect(between(whole, there, 0)).toEqual(whole);
    expect(between(whole, there, 1).x).toBeCloseTo(there.x);
    expect(pan(whole, 3, 4)).toEqual({ scale: 5, x: 3, y: 154 });
  });
});

test('lines of A and B stand side by side', () => {
  const part = (n: number) => ({ key: `line ${n}`, kind: 'line', name: '', category: '', page: '' });
  const change = (id: string, kind: Change['kind'], a?: number, b?: number): Change => ({
    id,
    kind,
    part: part(b ?? a ?? 0),
    ...(a ? { partA: part(a) } : {}),
    ...(b ? { partB: part(b) } : {}),
    what: [],
    boxA: null,
    boxB: null,
    size: 0,
  });
  const rows = lineRows(
    ['1', '2', '3', '4'],
    ['1', 'two', '4', '5'],
    [change('c', 'changed', 2, 2), change('r', 'removed', 3), change('a', 'added', undefined, 4)],
  );
  expect(rows.map((r) => [r.a, r.b, r.change?.id])).toEqual([
    [0, 0, undefined],
    [1, 1, 'c'],
    [2, undefined, 'r'],
    [3, 2, undefined],
    [undefined, 3, 'a'],
  ]);
  const long = Array.from({ length: 20 }, (_, i) => ({ a: i, b: i }));
  expect(withGaps(long, (r) => r.a === 10).map((r) => (r === 'gap' ? '…' : r.a))).toEqual(['…', 8, 9, 10, 11, 12, '…']);
});
