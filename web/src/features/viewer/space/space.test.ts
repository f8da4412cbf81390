/** Looking at models: from where, what is put together, and what is shown in which way. */
import type { Change } from '@ovrel/core/contract';
import { asItStands, type Space } from '@ovrel/core/space';
import { groupsOf, offOnly, partOfTriangle } from './groups.ts';
import { directionOf, eyeOf, fitted, panned, standardViews, turned, zoomed, type Orbit } from './orbit.ts';
import { boxOfChange, pairsLaid, shownOf } from './shown.ts';

const round = (values: readonly number[]): number[] => values.map((value) => Math.round(value * 1e6) / 1e6 + 0);
const orbit: Orbit = { target: [1, 2, 3], distance: 10, turn: 0, rise: 0 };
const view = (id: string) => standardViews.find((one) => one.id === id)!;

describe('where one looks from', () => {
  test('the front is along y, the right along x, above along z', () => {
    expect(round(directionOf({ ...orbit, ...view('front') }))).toEqual([0, -1, 0]);
    expect(round(directionOf({ ...orbit, ...view('right') }))).toEqual([1, 0, 0]);
    expect(directionOf({ ...orbit, ...view('above') })[2]).toBeGreaterThan(0.999);
    expect(round(eyeOf(orbit))).toEqual([1, -8, 3]);
  });

  test('a box fits the view whatever its shape, also in a narrow one', () => {
    const wide = fitted([0, 0, 0, 100, 100, 100], orbit, 2);
    expect(wide.target).toEqual([50, 50, 50]);
    expect(wide.distance * Math.sin((35 / 2) * (Math.PI / 180))).toBeGreaterThan(Math.hypot(50, 50, 50));
    expect(fitted([0, 0, 0, 100, 100, 100], orbit, 0.5).distance).toBeGreaterThan(wide.distance * 1.5);
  });

  test('turned round it comes back; over the top it does not go', () => {
    let now = orbit;
    for (let k = 0; k < 24; k++) now = turned(now, 15, 0);
    expect(now.turn).toBeCloseTo(0, 9);
    expect(turned(orbit, 0, 500).rise).toBeLessThan(90);
    expect(zoomed(orbit, 0.5).distance).toBe(5);
  });

  test('moved to the right, what is looked at goes to the left, as far as the pointer went', () => {
    const moved = panned(orbit, 100, 0, 1000);
    expect(moved.target[0]).toBeLessThan(1);
    expect(round([moved.target[1], moved.target[2]])).toEqual([2, 3]);
    expect(panned(orbit, 0, 100, 1000).target[2]).toBeGreaterThan(3);
  });
});

const part = (name: string, mesh: number, placing?: number[]) => ({
  kind: 'node',
  name,
  key: null,
  category: '',
  page: 0,
  parents: [],
  mesh,
  props: {},
  ...(placing ? { placing } : {}),
});
/** A single triangle, placed twice, and one that stands by itself. */
const space: Space = {
  head: {
    unit: 'mm',
    unitMillimetres: 1,
    origin: [100, 0, 0],
    box: [0, 0, 0, 9, 9, 9],
    pages: ['Model'],
    meshes: [
      { points: 3, triangles: 1 },
      { points: 3, triangles: 1 },
    ],
    parts: [
      part('left', 0, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -5, 0, 0, 1]),
      part('right', 0, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1]),
      part('own', 1),
      part('bare', -1),
    ],
  },
  meshes: [
    { points: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]), triangles: Uint32Array.from([0, 1, 2]) },
    { points: Float32Array.from([0, 0, 7, 1, 0, 7, 0, 1, 7]), triangles: Uint32Array.from([0, 1, 2]) },
  ],
};
const nothing = { distancesOf: () => undefined, stands: asItStands };

describe('parts put together', () => {
  test('those of one paint are one thing to draw, each where it stands, and can be told apart by a triangle', () => {
    const [group, ...others] = groupsOf(space, { ...nothing, paintOf: () => 'same' });
    expect(others).toEqual([]);
    expect([...group!.points.slice(0, 3), ...group!.points.slice(9, 12)]).toEqual([-5, 0, 0, 5, 0, 0]);
    expect([0, 1, 2].map((triangle) => partOfTriangle(group!, triangle))).toEqual([0, 1, 2]);
  });

  test('what is not shown is left out, what is painted otherwise is apart, and all of it can be shifted', () => {
    const groups = groupsOf(space, {
      ...nothing,
      paintOf: (k) => [undefined, 'added', 'same'][k] as 'added' | 'same' | undefined,
      stands: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 50, 1],
    });
    expect(groups.map(({ paint, parts }) => [paint, parts])).toEqual([
      ['added', [1]],
      ['same', [2]],
    ]);
    expect(groups[1]!.points[2]).toBe(57);
  });

  test('only what lies off is left, where that is known', () => {
    const distancesOf = (k: number): Float32Array | undefined => (k === 1 ? Float32Array.from([0, 0.5, 0]) : undefined);
    const [group] = groupsOf(space, { ...nothing, distancesOf, paintOf: () => 'changed' });
    const off = offOnly(group!, 0.1);
    expect(off.triangles).toHaveLength(3);
    expect(partOfTriangle(off, 0)).toBe(1);
    expect(offOnly({ ...group!, distances: new Float32Array(9) }, 0.1)).toMatchObject({ triangles: group!.triangles });
  });
});

const change = (id: string, kind: Change['kind'], more: Partial<Change> = {}): Change => ({
  id,
  kind,
  part: { key: null, kind: 'node', name: '', category: '', page: 'Model' },
  what: [],
  boxA: null,
  boxB: null,
  size: 0,
  ...more,
});
const on = (index: number) => ({ key: null, kind: 'node', name: '', category: '', page: 'Model', index });
const changes: readonly Change[] = [
  change('c1', 'added', { partB: on(1), boxB: [0, 0, 4, 4], zB: [0, 9] }),
  change('c2', 'changed', { partA: on(2), partB: on(2), what: [{ aspect: 'geometry', from: '', to: '' }] }),
  change('c3', 'changed', {
    partA: on(2),
    partB: on(2),
    material: { volume: 9, deviation: 1 },
    boxA: [0, 0, 1, 1],
    boxB: [0, 0, 2, 2],
    zA: [0, 1],
    zB: [0, 3],
  }),
];
const spaces = { a: space, b: space, broken: undefined, distances: undefined };
const asked = {
  look: 'overlay' as const,
  comparing: true,
  changes,
  selected: undefined,
  hidden: new Set<string>(),
  curtain: 0.5,
  blinkA: false,
  parallel: false,
  most: 1,
  laid: undefined,
  cut: undefined,
  spots: [],
};

describe('what is shown', () => {
  test('the overlay has all of B, painted by what became of it, and of A only what is no longer so', () => {
    const shown = shownOf(spaces, asked)!;
    expect(shown.b!.groups.map(({ paint, parts }) => [paint, parts])).toEqual([
      ['same', [0]],
      ['added', [1]],
      ['changed', [2]],
    ]);
    expect(shown.a).toMatchObject({ dashed: true });
    expect(shown.a!.groups.map(({ paint, parts }) => [paint, parts])).toEqual([['changed', [2]]]);
  });

  test('changes only leaves the rest out; blink shows one side; side by side both as they are', () => {
    expect(shownOf(spaces, { ...asked, look: 'only' })!.b!.groups.map(({ paint }) => paint)).toEqual([
      'added',
      'changed',
    ]);
    expect(shownOf(spaces, { ...asked, look: 'blink', blinkA: true })!.a).toBeUndefined();
    const beside = shownOf(spaces, { ...asked, look: 'side' })!;
    expect([beside.way, beside.a!.groups[0]!.paint]).toEqual(['beside', 'plain']);
  });

  test('where A was moved as a whole it lies over B, but for side by side', () => {
    const laid = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 30, 1];
    const zOf = (look: 'overlay' | 'side' | 'blink'): number | undefined => {
      const shown = shownOf(spaces, { ...asked, look, laid, blinkA: true })!;
      const own = (look === 'blink' ? shown.b : shown.a)!.groups.at(-1)!;
      return own.points.at(-1);
    };
    expect([zOf('overlay'), zOf('side'), zOf('blink')]).toEqual([37, 7, 37]);
  });

  test('hidden parts are not shown; what is chosen is marked where it stands in the scene', () => {
    const shown = shownOf(spaces, { ...asked, hidden: new Set(['b1']), selected: 'c1' })!;
    expect(shown.b!.groups.map(({ paint }) => paint)).toEqual(['same', 'changed']);
    expect(shown.mark).toEqual([-100, 0, 0, -96, 4, 9]);
  });

  test('parts that both sides have are laid over one another, placements of a changed surface too, and not places on them', () => {
    const placement = change('c4', 'changed', {
      partA: on(0),
      partB: on(1),
      what: [{ aspect: 'definition', from: 'cap', to: 'cap' }],
    });
    expect(pairsLaid([...changes, placement])).toEqual([
      [2, 2],
      [0, 1],
    ]);
    expect(boxOfChange(changes[2])).toEqual([0, 0, 0, 2, 2, 3]);
    expect(boxOfChange(changes[1])).toBeUndefined();
  });
});
