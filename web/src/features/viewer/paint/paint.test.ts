/** What is drawn, as calls to a context that notes them: each kind of change has ink, line and sign of its own. */
import type { Change } from '@ovrel/core/contract';
import { inkOf, looks } from '../looks.ts';
import { paint } from './paint.ts';
import { rectOf, type Painted } from './scene.ts';

interface Noted {
  readonly call: string;
  readonly args: readonly unknown[];
  readonly ink: unknown;
  readonly fill: unknown;
  readonly dash: readonly number[];
  readonly width: unknown;
}

/** Notes every call with the pen that it is made with. */
function noting(): { context: CanvasRenderingContext2D; calls: Noted[] } {
  const calls: Noted[] = [];
  const state: Record<string, unknown> = {};
  let dash: readonly number[] = [];
  const context = new Proxy(state, {
    get: (_, name: string) => {
      if (name === 'measureText') return (text: string) => ({ width: 7 * text.length });
      if (name === 'setLineDash')
        return (next: number[]) => {
          dash = next;
        };
      if (name in state) return state[name];
      return (...args: unknown[]) =>
        calls.push({
          call: name,
          args,
          ink: state['strokeStyle'],
          fill: state['fillStyle'],
          dash,
          width: state['lineWidth'],
        });
    },
    set: (_, name: string, value: unknown) => {
      state[name] = value;
      return true;
    },
  }) as unknown as CanvasRenderingContext2D;
  return { context, calls };
}

const change = (kind: Change['kind'], more: Partial<Change> = {}): Change => ({
  id: kind,
  kind,
  part: { key: null, kind: 'rectangle', name: 'r', category: '', page: '' },
  what: [],
  boxA: kind === 'added' ? null : [10, 10, 60, 40],
  boxB: kind === 'removed' ? null : [20, 20, 70, 50],
  size: 1,
  ...more,
});

const outline = (x: number, y: number): Painted['outlines'][string]['a'] => ({
  paths: [[x, y, x + 50, y, x + 50, y + 30]],
  closed: [true],
});

function painted(more: Partial<Painted>): Noted[] {
  const { context, calls } = noting();
  const all = more.changes ?? [];
  const scene: Painted = {
    look: 'only',
    a: { box: [0, 0, 400, 300] },
    b: { box: [0, 0, 400, 300] },
    comparing: true,
    changes: [],
    outlines: Object.fromEntries(all.map((c) => [c.id, { a: outline(10, 10), b: outline(20, 20) }])),
    pixels: false,
    selected: undefined,
    pulse: 1,
    curtain: 0.25,
    blinkA: false,
    pins: [],
    switched: new Map(),
    ...more,
  };
  paint({ context, width: 400, height: 300, ratio: 1, moving: false }, scene, { x: 0, y: 0, scale: 1 });
  return calls;
}
const strokes = (calls: readonly Noted[]): readonly Noted[] => calls.filter((c) => c.call === 'stroke');
const texts = (calls: readonly Noted[]): unknown[] => calls.filter((c) => c.call === 'fillText').map((c) => c.args[0]);

test('every kind of change has its ink, and a line that tells it without colour', () => {
  const [removed] = strokes(painted({ changes: [change('removed')] }));
  expect(removed).toMatchObject({ ink: inkOf.removed, dash: [7, 4] });
  const [added] = strokes(painted({ changes: [change('added')] }));
  expect(added).toMatchObject({ ink: inkOf.added, dash: [] });
  const changed = strokes(painted({ changes: [change('changed')] }));
  // As it was, dotted; as it is, a double line.
  expect(changed.map((s) => [s.dash.length > 0, s.width])).toEqual([
    [true, 1.25],
    [false, 4.5],
    [false, 1.5],
  ]);
  const moved = painted({ changes: [change('moved')] });
  expect(moved.some((c) => c.call === 'lineTo' && c.args[0] !== undefined)).toBe(true);
  expect(strokes(moved).every((s) => s.ink === inkOf.moved)).toBe(true);
});

test('marks stand beside changes, unless they would cover one another or be too many', () => {
  expect(texts(painted({ changes: [change('added')] }))).toEqual(['+B']);
  const place = change('added', { part: { key: null, kind: 'place', name: '12 upper left', category: '', page: '' } });
  expect(texts(painted({ changes: [place] }))).toEqual(['+B12']);
  const twice = [change('added'), { ...change('added'), id: 'again' }];
  expect(texts(painted({ changes: twice }))).toEqual(['+B']);
  const many = Array.from({ length: 151 }, (_, i) =>
    change('added', { id: `c${i}`, boxB: [40 * (i % 10), 20 * i, 40 * (i % 10) + 10, 20 * i + 10] }),
  );
  expect(texts(painted({ changes: many }))).toEqual([]);
});

test('side by side, what is only in A is drawn on the left, what is only in B on the right', () => {
  const removed = painted({ look: 'side', changes: [change('removed')] });
  const added = painted({ look: 'side', changes: [change('added')] });
  const firstX = (calls: readonly Noted[]): number => calls.find((c) => c.call === 'moveTo')!.args[0] as number;
  expect(firstX(removed)).toBe(10);
  expect(firstX(added)).toBe(220);
  expect(strokes(removed)).toHaveLength(1);
  expect(strokes(added)).toHaveLength(1);
});

test('the curtain shows A up to where it hangs, and B beyond', () => {
  const image = (name: string): CanvasImageSource => ({ name }) as unknown as CanvasImageSource;
  const calls = painted({
    look: 'curtain',
    a: { box: [0, 0, 400, 300], image: image('A') },
    b: { box: [0, 0, 400, 300], image: image('B') },
  });
  const clips = calls.filter((c) => c.call === 'rect').map((c) => c.args);
  expect(clips).toEqual([
    [0, 0, 100, 300],
    [100, 0, 300, 300],
  ]);
  expect(calls.filter((c) => c.call === 'drawImage').map((c) => c.args[0])).toMatchObject([
    { name: 'A' },
    { name: 'B' },
  ]);
});

test('blinking shows one version at a time', () => {
  const image = (name: string): CanvasImageSource => ({ name }) as unknown as CanvasImageSource;
  const both = { a: { box: [0, 0, 1, 1], image: image('A') }, b: { box: [0, 0, 1, 1], image: image('B') } } as const;
  const shown = (blinkA: boolean): unknown =>
    painted({ look: 'blink', blinkA, ...both })
      .filter((c) => c.call === 'drawImage')
      .map((c) => (c.args[0] as { name: string }).name);
  expect([shown(true), shown(false)]).toEqual([['A'], ['B']]);
});

test('the chosen change has a frame in every way of looking', () => {
  for (const look of looks) {
    if (look === 'heat') continue;
    const frames = painted({ look, changes: [change('changed')], selected: 'changed' }).filter(
      (c) => c.call === 'strokeRect' && (c.args[2] as number) > 60,
    );
    expect(frames.length).toBeGreaterThan(0);
  }
});

test('a part that is too small to see is drawn large enough to be seen', () => {
  const tiny = change('added', { boxB: [100, 100, 100.2, 100.2] });
  const rect = painted({ changes: [tiny], outlines: {} }).find((c) => c.call === 'rect' && c.args[0] !== 0);
  expect(rect!.args[2]).toBeCloseTo(3, 5);
});

test('a box of the page lies on the surface as the camera says, with room around it', () => {
  expect(rectOf([10, 20, 30, 60], { x: 5, y: 7, scale: 2 })).toEqual([25, 47, 40, 80]);
  expect(rectOf([10, 20, 30, 60], { x: 5, y: 7, scale: 2 }, 3)).toEqual([22, 44, 46, 86]);
});

test('whoever drew a part is told by a letter and a line of their own, not by colour alone', () => {
  const frame = (letter: string, style: number, x: number) =>
    ({ box: [x, 50, x + 40, 90], page: '', letter, style }) as const;
  const calls = painted({ comparing: false, frames: [frame('I', 0, 20), frame('T', 1, 120), frame('', 0, 220)] });
  const frames = calls.filter((c) => c.call === 'strokeRect');
  expect(frames.map((c) => c.args[0])).toEqual([18, 118, 218]);
  expect(frames[0]?.ink).not.toBe(frames[1]?.ink);
  expect(frames[0]?.dash).not.toEqual(frames[1]?.dash);
  expect(texts(calls)).toEqual(['I', 'T']);
});
