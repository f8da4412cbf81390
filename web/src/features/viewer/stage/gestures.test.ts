/** What hands do to the view: drag, pinch, turn the wheel, press arrows. */
import type { Camera } from '../camera.ts';
import { Gestures, type Movable } from './gestures.ts';

// What browsers know and Node does not.
globalThis.WheelEvent = { DOM_DELTA_LINE: 1 } as unknown as typeof WheelEvent;

type Listener = (event: unknown) => void;

/** A canvas that only listens, and a view that notes where it was moved. */
function made(look = 'overlay'): {
  gestures: Gestures;
  fire: (type: string, event: object) => void;
  camera: () => Camera;
  zooms: number[][];
  scheduled: () => number;
} {
  const listeners = new Map<string, Listener>();
  const canvas = {
    addEventListener: (type: string, listener: Listener, { signal }: { signal: AbortSignal }) => {
      listeners.set(type, listener);
      signal.addEventListener('abort', () => listeners.delete(type));
    },
    getBoundingClientRect: () => ({ left: 10, top: 20, width: 800, height: 600 }),
    setPointerCapture: () => undefined,
  } as unknown as HTMLCanvasElement;
  let camera: Camera = { x: 0, y: 0, scale: 1 };
  let scheduled = 0;
  const zooms: number[][] = [];
  const view: Movable = {
    shown: {
      camera,
      scene: { comparing: true, look },
      size: { width: 800, height: 600 },
    } as unknown as Movable['shown'],
    zoom: (...args) => zooms.push(args),
    move: (to) => {
      camera = to(camera);
    },
    schedule: () => {
      scheduled += 1;
    },
  };
  const gestures = new Gestures(canvas, view);
  const fire = (type: string, event: object): void =>
    listeners.get(type)?.({ preventDefault: () => undefined, stopPropagation: () => undefined, ...event });
  return { gestures, fire, camera: () => camera, zooms, scheduled: () => scheduled };
}
const pointer = (pointerId: number, clientX: number, clientY: number): object => ({ pointerId, clientX, clientY });

test('a drag moves the view with the hand, and is told from a press', () => {
  const { gestures, fire, camera, scheduled } = made();
  fire('pointerdown', pointer(1, 100, 100));
  expect(gestures.held).toBe(true);
  fire('pointermove', pointer(1, 101, 101));
  expect(gestures.moved).toBe(false);
  fire('pointermove', pointer(1, 150, 130));
  expect(gestures.moved).toBe(true);
  expect(camera()).toEqual({ x: 50, y: 30, scale: 1 });
  fire('pointerup', pointer(1, 150, 130));
  expect(gestures.held).toBe(false);
  expect(scheduled()).toBe(1);
  fire('pointermove', pointer(1, 300, 300));
  expect(camera()).toEqual({ x: 50, y: 30, scale: 1 });
  // The next press has not moved anything yet.
  fire('pointerdown', pointer(1, 10, 10));
  expect(gestures.moved).toBe(false);
});

test('two fingers make it larger by as much as they part, around their middle', () => {
  const { gestures, fire, camera, zooms } = made();
  fire('pointerdown', pointer(1, 110, 120));
  fire('pointerdown', pointer(2, 210, 120));
  fire('pointermove', pointer(2, 310, 120));
  expect(zooms).toEqual([[2, 200, 100]]);
  expect(camera()).toEqual({ x: 50, y: 0, scale: 1 });
  expect(gestures.moved).toBe(true);
});

test('the wheel makes it larger or smaller where the pointer is; lines count for more than pixels', () => {
  const { fire, zooms } = made();
  fire('wheel', { clientX: 210, clientY: 120, deltaY: -100, deltaMode: 0 });
  fire('wheel', { clientX: 210, clientY: 120, deltaY: 100, deltaMode: 0 });
  fire('wheel', { clientX: 210, clientY: 120, deltaY: -5, deltaMode: 1 });
  const [[closer, x, y], [further], [byLines]] = zooms as [number[], number[], number[]];
  expect([x, y]).toEqual([200, 100]);
  expect(closer).toBeGreaterThan(1);
  expect(closer! * further!).toBeCloseTo(1, 9);
  expect(byLines).toBeCloseTo(closer!, 9);
});

test('side by side, the right half moves the same view', () => {
  const { fire, zooms } = made('side');
  fire('wheel', { clientX: 10 + 400 + 150, clientY: 120, deltaY: -100, deltaMode: 0 });
  expect(zooms[0]!.slice(1)).toEqual([150, 100]);
});

test('arrows move it, other keys and those with Shift do not', () => {
  const { fire, camera } = made();
  fire('keydown', { key: 'ArrowLeft', shiftKey: false });
  fire('keydown', { key: 'ArrowDown', shiftKey: false });
  expect(camera()).toEqual({ x: 60, y: -60, scale: 1 });
  fire('keydown', { key: 'ArrowLeft', shiftKey: true });
  fire('keydown', { key: 'a', shiftKey: false });
  expect(camera()).toEqual({ x: 60, y: -60, scale: 1 });
});

test('after its end nothing moves any more', () => {
  const { gestures, fire, camera } = made();
  gestures.end();
  fire('keydown', { key: 'ArrowLeft', shiftKey: false });
  expect(camera()).toEqual({ x: 0, y: 0, scale: 1 });
});
