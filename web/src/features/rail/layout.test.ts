import type { Version } from '../../contract/api.ts';
import { layoutRail, nearestStop, stopsBetween } from './layout.ts';

const version = (number: number, more: Partial<Version> = {}): Version => ({
  id: `v${number}`, fileId: 'f', number, line: 'main line', kind: 'check-in', title: null, note: '', by: { id: 'p', name: 'Ines' }, at: new Date(Date.UTC(2027, 2, 1) + number * 3_600_000).toISOString(),
  size: 1, sha256: '', format: 'svg', uploadName: '', source: null, summary: null, ...more,
});
const many = (n: number): Version[] => Array.from({ length: n }, (_, i) => version(i + 1));

test('versions stand in order; kinds have their glyphs', () => {
  const { stops } = layoutRail([version(1), version(2, { title: 'Agreed' }), version(3, { kind: 'backup' })], 'step', 900);
  expect(stops.map((s) => s.glyph)).toEqual(['check-in', 'keeper', 'backup']);
  expect(stops[0]!.x).toBeLessThan(stops[1]!.x);
});

test('a run of autosaves by one person is one sitting; a pause or another person ends it', () => {
  const at = (minute: number): string => new Date(Date.UTC(2027, 2, 1, 9, minute)).toISOString();
  const auto = (n: number, minute: number, who = 'p'): Version => version(n, { kind: 'autosave', at: at(minute), by: { id: who, name: who } });
  const { stops } = layoutRail([auto(1, 0), auto(2, 5), auto(3, 10), auto(4, 55), auto(5, 58, 'q')], 'step', 900);
  expect(stops.map((s) => [s.glyph, s.sitting.length])).toEqual([['sitting', 3], ['autosave', 1], ['autosave', 1]]);
});

test('an arc leads from the version that was brought forward', () => {
  const { arcs, stops } = layoutRail([version(1), version(2), version(3, { source: 1 })], 'step', 900);
  expect(arcs).toEqual([{ from: stops[0]!.x, to: stops[2]!.x, says: 'v3 brings v1 forward' }]);
});

test('by time, gaps follow the dates but nothing overlaps', () => {
  const { stops } = layoutRail([version(1), version(2, { at: '2027-03-01T02:00:01Z' }), version(3, { at: '2027-06-01T00:00:00Z' })], 'time', 900);
  expect(stops[1]!.x - stops[0]!.x).toBeGreaterThanOrEqual(22);
  expect(stops[2]!.x - stops[1]!.x).toBeGreaterThan(500);
});

test('of ten thousand versions only those in sight are drawn', () => {
  const { stops, width } = layoutRail(many(10_000), 'step', 1000);
  expect(width).toBeGreaterThan(600_000);
  const seen = stopsBetween(stops, 320_000, 321_000);
  expect(seen.length).toBeGreaterThan(10);
  expect(seen.length).toBeLessThan(20);
  expect(nearestStop(stops, seen[3]!.x + 5)).toBe(seen[3]);
  expect(nearestStop(stops, 1e9)).toBe(stops.at(-1));
});
