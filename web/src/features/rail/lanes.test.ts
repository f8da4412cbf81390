import type { RailColumns } from '../../contract/api.ts';
import { layoutLanes } from './lanes.ts';
import { layoutRail, marksOf, type Mark } from './layout.ts';

const MAIN = { ids: ['m1', 'm2', 'm3'], numbers: [1, 2, 3], at: [0, 3600, 7200], kinds: 'ccc', by: [0, 0, 0] };
// From m1, with a check-in, a save and a check-in; its last was joined into m3.
const columns: RailColumns = {
  ...MAIN,
  line: 'main',
  sittingPause: 30,
  people: [{ id: 'p', name: 'Ines' }],
  lines: [
    { id: 'main', position: 0, name: 'main line', from: null, closed: false },
    { id: 'try', position: 1, name: 'Twelve bolts', from: { id: 'm1', number: 1 }, closed: false },
  ],
  lanes: [
    { line: 'try', ids: ['t2', 't3', 't4'], numbers: [2, 3, 4], at: [4000, 9000, 14_000], kinds: 'cac', by: [0, 0, 0] },
  ],
  titles: [],
  sources: [['m3', 't4']],
};
const rail = layoutRail(marksOf(columns), { scale: 'even', room: 900, pause: 1_800_000 });
const laid = (passing: (marks: readonly Mark[]) => readonly Mark[], folded: readonly string[] = []) =>
  layoutLanes(columns, rail, new Set(folded), passing);

test('a lane leaves where it was started, and comes back where it was joined', () => {
  const { lanes, filteredOut } = laid((marks) => marks);
  const [first] = rail.stops;
  expect(lanes).toHaveLength(1);
  expect(lanes[0]).toMatchObject({ name: 'Twelve bolts', versions: 3, folded: false, leaves: { from: first?.x } });
  expect(lanes[0]?.joins).toEqual([{ from: lanes[0]?.stops.at(-1)?.x, to: rail.stops[2]?.x }]);
  expect(filteredOut).toBe(0);
});

test('what a filter leaves out is left out of lanes, too, and counted', () => {
  const { lanes, filteredOut } = laid((marks) => marks.filter(({ kind }) => kind === 'check-in'));
  expect(lanes[0]?.stops.map(({ version }) => version.number)).toEqual([2, 4]);
  expect(filteredOut).toBe(1);
  const nothing = laid(() => []);
  expect(nothing.lanes[0]?.stops).toEqual([]);
  expect(nothing.filteredOut).toBe(3);
});

test('a lane is folded where somebody says so', () => {
  expect(laid((marks) => marks, ['try']).lanes[0]?.folded).toBe(true);
});
