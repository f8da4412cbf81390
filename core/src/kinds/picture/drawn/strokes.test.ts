import type { Bitmap } from '../../../raster/bitmap.ts';
import { strokesBetween, type Strokes } from './strokes.ts';
import { THRESHOLD } from '../difference/difference-map.ts';
import { regionsOf } from '../difference/regions.ts';

const W = 200;
const H = 140;
type Line = readonly [x: number, y: number, w: number, h: number, grey?: number];

/** Dark lines on paper. */
function sheet(lines: readonly Line[], paper = 255): Bitmap {
  const data = new Uint8Array(4 * W * H).fill(paper);
  for (let p = 3; p < data.length; p += 4) data[p] = 255;
  for (const [x0, y0, w, h, grey = 20] of lines)
    for (let y = y0; y < y0 + h; y++)
      for (let x = x0; x < x0 + w; x++) data.fill(grey, 4 * (y * W + x), 4 * (y * W + x) + 3);
  return { width: W, height: H, data };
}

const usual: Strokes = { reach: 3, beside: [], scanned: false };
const places = (a: Bitmap, b: Bitmap, how: Partial<Strokes> = {}, covered?: Uint8Array): number[][] =>
  regionsOf(strokesBetween(a, b, covered, { ...usual, ...how }), b, THRESHOLD).regions.map((r) => [...r.box]);

const frame: Line[] = [
  [20, 20, 160, 2],
  [20, 118, 160, 2],
  [20, 20, 2, 100],
  [178, 20, 2, 100],
];

test('lines a little beside, a little thicker or softer are the same', () => {
  expect(places(sheet([...frame, [60, 40, 80, 1]]), sheet([...frame, [60, 42, 80, 1]]))).toEqual([]);
  expect(places(sheet([...frame, [60, 40, 80, 1]]), sheet([...frame, [60, 40, 80, 2]]))).toEqual([]);
  expect(places(sheet([...frame, [60, 40, 80, 1]]), sheet([...frame, [60, 40, 80, 1, 90]]))).toEqual([]);
});

test('a line that is not there, and one that is elsewhere, are found where they are', () => {
  const [gone] = places(sheet([...frame, [60, 60, 80, 1]]), sheet(frame));
  expect(gone![1]).toBeGreaterThan(48);
  expect(gone![3]).toBeLessThan(74);
  const moved = places(sheet([...frame, [60, 50, 80, 2]]), sheet([...frame, [60, 90, 80, 2]]));
  expect(moved.length).toBeGreaterThan(0);
  expect(Math.min(...moved.map((b) => b[1]!))).toBeLessThan(52);
  expect(Math.max(...moved.map((b) => b[3]!))).toBeGreaterThan(88);
});

test('an area of another grey is found, though its outline is the same', () =>
  expect(places(sheet([[60, 40, 60, 50, 200]]), sheet([[60, 40, 60, 50, 120]])).length).toBe(1));

test('grey paper of a scan is paper', () => {
  expect(
    places(sheet([...frame, [60, 40, 80, 2]]), sheet([...frame, [60, 40, 80, 2]], 228), { scanned: true }),
  ).toEqual([]);
  expect(places(sheet([...frame, [60, 40, 80, 2]]), sheet(frame, 228), { scanned: true }).length).toBe(1);
});

test('what is not looked at is not found, nor is what lies beyond the other sheet', () => {
  const a = sheet([...frame, [60, 60, 80, 2]]);
  const b = sheet(frame);
  expect(places(a, b, { beside: [[50, 50, 150, 75]] })).toEqual([]);
  expect(places(a, b, {}, new Uint8Array(W * H).fill(1).fill(0, 45 * W))).toEqual([]);
});
