/** What lies at a point of the canvas, whatever way the versions are laid over one another. */
import type { Change } from '@ovrel/core/contract';
import type { SceneRenderer } from '../gl/renderer.ts';
import type { Painted } from '../paint/scene.ts';
import { changeAt, mapTarget, onPage, partAt, pinUnder, snappedTo, type Shown } from './hits.ts';

const change = (id: string, boxA: Change['boxA'], boxB: Change['boxB']): Change => ({
  id,
  kind: 'changed',
  part: { key: null, kind: 'line', name: '', category: '', page: '' },
  what: [],
  boxA,
  boxB,
  size: 1,
});

const painted = (more: Partial<Painted> = {}): Painted => ({
  look: 'overlay',
  a: undefined,
  b: { box: [0, 0, 1000, 500] },
  comparing: true,
  changes: [],
  outlines: {},
  pixels: false,
  selected: undefined,
  pulse: 1,
  curtain: 0.5,
  blinkA: false,
  pins: [],
  switched: new Map(),
  ...more,
});
const shown = (more: Partial<Painted> = {}, camera = { x: 100, y: 50, scale: 2 }): Shown => ({
  camera,
  scene: painted(more),
  size: { width: 800, height: 600 },
});

test('a point of the canvas is a point of the page', () => {
  expect(onPage(shown(), 100, 50)).toEqual([0, 0]);
  expect(onPage(shown(), 300, 150)).toEqual([100, 50]);
});

test('side by side, the right half shows the same page again', () => {
  expect(onPage(shown({ look: 'side' }), 300, 150)).toEqual([100, 50]);
  expect(onPage(shown({ look: 'side' }), 700, 150)).toEqual([100, 50]);
  // Without a comparison there is one page only.
  expect(onPage(shown({ look: 'side', comparing: false }), 700, 150)).toEqual([300, 50]);
});

describe('the change under a point', () => {
  const wide = change('wide', [0, 0, 200, 200], null);
  const small = change('small', null, [90, 90, 110, 110]);
  const at = (x: number, y: number, changes = [wide, small]): string | undefined =>
    changeAt(shown({ changes }), x * 2 + 100, y * 2 + 50);

  test('is the smallest one that is drawn there, of either side', () => {
    expect(at(100, 100)).toBe('small');
    expect(at(100, 100, [small, wide])).toBe('small');
    expect(at(20, 20)).toBe('wide');
    expect(at(400, 20)).toBeUndefined();
  });

  test('may be missed by a few pixels, and by no more', () => {
    expect(at(202, 100)).toBe('wide');
    expect(at(204, 100)).toBeUndefined();
  });
});

test('the comment whose flag stands there, in B where both are side by side', () => {
  const pins = [{ id: 'c', x: 50, y: 50, number: 1, resolved: false }] as unknown as Painted['pins'];
  const found = (look: Painted['look'], x: number): string | undefined => {
    for (let y = 100; y <= 150; y++) {
      const id = pinUnder(shown({ look, pins }), x, y);
      if (id) return id;
    }
    return undefined;
  };
  expect(found('overlay', 204)).toBe('c');
  expect(found('side', 204)).toBeUndefined();
  expect(found('side', 604)).toBe('c');
});

describe('pages drawn from their parts', () => {
  const asked: number[][] = [];
  const renderer = {
    partAt: (_: unknown, ...args: number[]) => {
      asked.push(args);
      return 7;
    },
    endAt: (_: unknown, x: number) => (x < 400 ? ([12, 34] as const) : undefined),
  } as unknown as SceneRenderer;
  const b = { box: [0, 0, 1000, 500], renderer } as const;

  test('know the part that is nearest', () => {
    expect(partAt(shown({ b }), 10, 20)).toBe(7);
    expect(asked).toEqual([[10, 20, 7]]);
    expect(partAt(shown(), 10, 20)).toBeUndefined();
  });

  test('lend the end of a line to who measures; elsewhere the point itself counts', () => {
    expect(snappedTo(shown({ b }), 300, 150)).toEqual([12, 34]);
    expect(snappedTo(shown({ b }), 500, 150)).toEqual([200, 50]);
    expect(snappedTo(shown(), 300, 150)).toEqual([100, 50]);
  });
});

describe('the small page', () => {
  const near = { x: -900, y: -400, scale: 2 };
  const changes = [change('c', [5, 5, 15, 15], null)];
  const target = (more: Partial<Painted>): unknown =>
    mapTarget(shown({ changes, b: { box: [0, 0, 3000, 1500] }, ...more }, near), 780, 580);

  test('is there where something changed and part of the page is out of sight', () => {
    expect(target({})).toMatchObject({ scale: 2 });
    expect(target({ changes: [] })).toBeUndefined();
    expect(target({ look: 'side' })).toBeUndefined();
    expect(target({ comparing: false })).toBeUndefined();
    expect(mapTarget(shown({ changes, b: { box: [0, 0, 3000, 1500] } }, near), 10, 10)).toBeUndefined();
  });
});
