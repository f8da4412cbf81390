/** Parts in groups, planes through a model, and ways on it. */
import type { Change } from '@ovrel/core/contract';
import { slicesOf, type Space, type SpacePart } from '@ovrel/core/space';
import { groupingsOf, hiddenBut, titleOf, treeOf } from './tree.ts';
import { planeOf } from './useSection.ts';
import { sayWay } from './ways.ts';

const part = (name: string, page: number, category: string, type?: string): SpacePart => ({
  kind: 'wall',
  name,
  key: name,
  category,
  page,
  parents: [],
  mesh: 0,
  props: type === undefined ? {} : { type },
});

/** A cube of 2 about the origin. */
const cube = {
  points: Float32Array.from([-1, -1, -1, 1, -1, -1, 1, 1, -1, -1, 1, -1, -1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1]),
  triangles: Uint32Array.from([
    0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7,
  ]),
};

const spaceOf = (parts: SpacePart[]): Space => ({
  head: {
    unit: 'mm',
    unitMillimetres: 1,
    origin: [0, 0, 0],
    box: [-1, -1, -1, 1, 1, 1],
    pages: ['No storey', 'Lower', 'Upper'],
    meshes: [{ points: 8, triangles: 12 }],
    parts,
  },
  meshes: [cube],
});

const b = spaceOf([
  part('one', 1, 'structure', 'thick'),
  part('two', 2, 'structure', 'thin'),
  part('three', 2, 'site'),
  { ...part('storey', 2, 'other'), mesh: -1 },
]);
const a = spaceOf([part('one', 1, 'structure'), part('gone', 1, 'structure')]);
const changes = [
  { id: 'c1', kind: 'changed', partA: { index: 0 }, partB: { index: 0 } },
  { id: 'c2', kind: 'removed', partA: { index: 1 } },
] as unknown as Change[];

describe('the parts of a model', () => {
  test('are put in groups that tell them apart, storeys from the top; what is gone stands where it stood', () => {
    expect(groupingsOf(b)).toEqual(['storey', 'category', 'type']);
    const storeys = treeOf('storey', b, a, changes);
    expect(storeys.map(({ name, parts, changed }) => [name, parts.map((one) => one.name), changed])).toEqual([
      ['Upper', ['two', 'three'], 0],
      ['Lower', ['one', 'gone'], 2],
    ]);
    expect(treeOf('type', b, a, []).map(({ name }) => name)).toEqual(['thick', 'thin', 'none']);
  });

  test('are called what the format calls them', () => {
    expect(titleOf('category', 'discipline')).toBe('discipline');
    expect(titleOf('category')).toBe('group');
    expect(titleOf('storey')).toBe('storey');
  });

  test('can be hidden but for some, both sides of what changed together', () => {
    const tree = treeOf('category', b, a, changes);
    expect([...hiddenBut(tree, ({ change }) => change !== undefined)].sort()).toEqual(['b1', 'b2']);
    expect([...hiddenBut(tree, ({ name }) => name === 'two')].sort()).toEqual(['a0', 'a1', 'b0', 'b2']);
  });
});

describe('a section', () => {
  const box = [-1, -1, -1, 1, 1, 1] as const;
  const section = { isOn: true, level: true, angle: 0, share: 0.75, flipped: false };

  test('is level at a height, or upright and turned; the other side is the same plane', () => {
    expect(planeOf(section, box)).toEqual({ normal: [0, 0, 1], at: 0.5 });
    expect(planeOf({ ...section, flipped: true }, box)).toEqual({ normal: [0, 0, -1], at: -0.5 });
    const upright = planeOf({ ...section, level: false, angle: 90, share: 0.25 }, box);
    expect(upright.normal.map((value) => Math.round(value * 1e9) / 1e9 + 0)).toEqual([1, 0, 0]);
    expect(upright.at).toBeCloseTo(-0.5);
  });

  test('cuts a cube in a square, and what it does not meet in nothing', () => {
    const lines = slicesOf(cube, planeOf(section, box));
    const length = Array.from({ length: lines.length / 6 }, (_, k) =>
      Math.hypot(...[0, 1, 2].map((axis) => lines[6 * k + 3 + axis]! - lines[6 * k + axis]!)),
    ).reduce((sum, one) => sum + one, 0);
    expect(length).toBeCloseTo(8);
    expect([...lines].filter((_, k) => k % 3 === 2).every((z) => z === 0.5)).toBe(true);
    expect(slicesOf(cube, { normal: [0, 0, 1], at: 3 })).toHaveLength(0);
    // A face that lies in the plane: nothing twice, nothing left open.
    expect(slicesOf(cube, { normal: [0, 0, 1], at: 1 }).length % 6).toBe(0);
  });
});

test('a way is said once there are two places, with how far it goes along each axis', () => {
  expect(sayWay([[0, 0, 0]], 'mm')).toBeUndefined();
  expect(
    sayWay(
      [
        [9, 9, 9],
        [0, 0, 0],
        [1000, 0, -750.5],
      ],
      'mm',
    ),
  ).toBe('1,250.3 mm: 1,000 along x, 0 along y, −750.5 along z');
});
