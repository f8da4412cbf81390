import { layoutRail, marksOf, nearestStop, stopsBetween, type Mark, type RailAsked, type Scale } from './layout.ts';

const version = (number: number, more: Partial<Mark> = {}): Mark => ({
  id: `id${number}`,
  number,
  kind: 'check-in',
  title: null,
  by: 'Ines',
  person: 'p',
  at: Date.UTC(2027, 2, 1) + number * 3_600_000,
  source: null,
  ...more,
});
const asked = (scale: Scale, room = 900): RailAsked => ({ scale, room, pause: 30 * 60_000 });
const many = (n: number): Mark[] => Array.from({ length: n }, (_, i) => version(i + 1));

test('columns give every version its number, kind, maker, title and source', () => {
  const marks = marksOf({
    line: 'main',
    ids: ['p3', 'p4', 'p7'],
    numbers: [3, 4, 7],
    at: [100, 200, 300],
    kinds: 'cab',
    sittingPause: 30,
    by: [1, 0, 1],
    people: [
      { id: 'p', name: 'Ines' },
      { id: 'q', name: 'Tobias' },
    ],
    lines: [],
    lanes: [],
    titles: [['p4', 'Agreed']],
    sources: [['p7', 'p3']],
  });
  expect(marks).toEqual([
    { id: 'p3', number: 3, at: 100_000, kind: 'check-in', by: 'Tobias', person: 'q', title: null, source: null },
    { id: 'p4', number: 4, at: 200_000, kind: 'autosave', by: 'Ines', person: 'p', title: 'Agreed', source: null },
    {
      id: 'p7',
      number: 7,
      at: 300_000,
      kind: 'backup',
      by: 'Tobias',
      person: 'q',
      title: null,
      source: { id: 'p3', number: 3 },
    },
  ]);
});

test('versions stand in order; kinds have their glyphs', () => {
  const { stops } = layoutRail(
    [version(1), version(2, { title: 'Agreed' }), version(3, { kind: 'backup' })],
    asked('even'),
  );
  expect(stops.map((s) => s.glyph)).toEqual(['check-in', 'keeper', 'backup']);
  expect(stops[0]!.x).toBeLessThan(stops[1]!.x);
});

test('a run of autosaves by one person is one sitting; a pause or another person ends it', () => {
  const at = (minute: number): number => Date.UTC(2027, 2, 1, 9, minute);
  const auto = (n: number, minute: number, who = 'p'): Mark =>
    version(n, { kind: 'autosave', at: at(minute), person: who });
  const { stops } = layoutRail([auto(1, 0), auto(2, 5), auto(3, 10), auto(4, 55), auto(5, 58, 'q')], asked('even'));
  expect(stops.map((s) => [s.glyph, s.sitting.length])).toEqual([
    ['sitting', 3],
    ['autosave', 1],
    ['autosave', 1],
  ]);
});

test('how long a pause ends a sitting is what the project says', () => {
  const save = (n: number): Mark => version(n, { kind: 'autosave', at: Date.UTC(2027, 2, 1, 9, 20 * n) });
  const sittingsAt = (minutes: number): number[] =>
    layoutRail([save(1), save(2), save(3)], { ...asked('even'), pause: minutes * 60_000 }).stops.map(
      ({ sitting }) => sitting.length,
    );
  expect(sittingsAt(30)).toEqual([3]);
  expect(sittingsAt(15)).toEqual([1, 1, 1]);
});

test('an arc leads from the version that a later one goes on from', () => {
  const { arcs, stops } = layoutRail(
    [version(1), version(2), version(3, { source: { id: 'id1', number: 1 } })],
    asked('even'),
  );
  expect(arcs).toEqual([{ from: stops[0]!.x, to: stops[2]!.x, says: 'v3 goes on from v1' }]);
});

test('by time, gaps follow the dates but nothing overlaps', () => {
  const { stops } = layoutRail(
    [version(1), version(2, { at: Date.UTC(2027, 2, 1, 2, 0, 1) }), version(3, { at: Date.UTC(2027, 5, 1) })],
    asked('time'),
  );
  expect(stops[1]!.x - stops[0]!.x).toBeGreaterThanOrEqual(22);
  expect(stops[2]!.x - stops[1]!.x).toBeGreaterThan(500);
});

test('of ten thousand versions only those in sight are drawn', () => {
  const { stops, width } = layoutRail(many(10_000), asked('even', 1000));
  expect(width).toBeGreaterThan(600_000);
  const seen = stopsBetween(stops, 320_000, 321_000);
  expect(seen.length).toBeGreaterThan(10);
  expect(seen.length).toBeLessThan(20);
  expect(nearestStop(stops, seen[3]!.x + 5)).toBe(seen[3]);
  expect(nearestStop(stops, 1e9)).toBe(stops.at(-1));
});
