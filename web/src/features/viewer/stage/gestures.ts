/** What pointers, the wheel and arrow keys do to the view. */
import { pan, type Camera } from '../camera.ts';
import type { Shown } from './hits.ts';

/** A view that can be moved. */
export interface Movable {
  readonly shown: Shown | undefined;
  readonly zoom: (factor: number, x: number, y: number) => void;
  readonly move: (to: (camera: Camera) => Camera) => void;
  readonly schedule: () => void;
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Pixels that an arrow key moves the view. */
const STRIDE = 60;
const ways: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [STRIDE, 0],
  ArrowRight: [-STRIDE, 0],
  ArrowUp: [0, STRIDE],
  ArrowDown: [0, -STRIDE],
};
/** A pointer that went no further than this, in pixels, did not move the view. */
const TREMBLE = 2;
/** Pixels of a line, where the wheel counts lines. */
const LINE = 20;

const distance = (a: Spot, b: Spot): number => Math.hypot(a.x - b.x, a.y - b.y);

export class Gestures {
  /** The last press moved the view. */
  moved = false;
  /** When the wheel turned last. */
  wheeled = -Infinity;
  private readonly canvas: HTMLCanvasElement;
  private readonly view: Movable;
  private readonly pointers = new Map<number, Spot>();
  private readonly controller = new AbortController();

  constructor(canvas: HTMLCanvasElement, view: Movable) {
    this.canvas = canvas;
    this.view = view;
    const { signal } = this.controller;
    canvas.addEventListener('wheel', this.onWheel, { passive: false, signal });
    canvas.addEventListener('pointerdown', this.onDown, { signal });
    canvas.addEventListener('pointermove', this.onMove, { signal });
    canvas.addEventListener('pointerup', this.onUp, { signal });
    canvas.addEventListener('pointercancel', this.onUp, { signal });
    canvas.addEventListener('keydown', this.onKey, { signal });
  }

  /** True while the view is held. */
  get held(): boolean {
    return this.pointers.size > 0;
  }

  end(): void {
    this.controller.abort();
  }

  /** A point of the canvas; side by side, of either half. */
  private local(e: MouseEvent): Spot {
    const box = this.canvas.getBoundingClientRect();
    const x = e.clientX - box.left;
    const scene = this.view.shown?.scene;
    const half = scene?.comparing && scene.look === 'side' ? box.width / 2 : Infinity;
    return { x: x > half ? x - half : x, y: e.clientY - box.top };
  }

  private readonly onWheel = (e: WheelEvent): void => {
    e.preventDefault();
    const { x, y } = this.local(e);
    this.wheeled = performance.now();
    const pace = e.ctrlKey ? 0.01 : 0.0015;
    const turned = e.deltaY * (e.deltaMode === WheelEvent.DOM_DELTA_LINE ? LINE : 1);
    this.view.zoom(Math.exp(-turned * pace), x, y);
  };

  private readonly onDown = (e: PointerEvent): void => {
    this.canvas.setPointerCapture(e.pointerId);
    this.pointers.set(e.pointerId, this.local(e));
    if (this.pointers.size === 1) this.moved = false;
  };

  private readonly onMove = (e: PointerEvent): void => {
    const before = this.pointers.get(e.pointerId);
    if (!before) return;
    const now = this.local(e);
    const other = [...this.pointers].find(([id]) => id !== e.pointerId)?.[1];
    if (other) this.pinch(before, now, other);
    else this.view.move((camera) => pan(camera, now.x - before.x, now.y - before.y));
    if (other || distance(now, before) > TREMBLE) this.moved = true;
    this.pointers.set(e.pointerId, now);
  };

  /** Two pointers: the view grows with their distance, and follows their middle. */
  private pinch(before: Spot, now: Spot, other: Spot): void {
    const grown = distance(now, other) / Math.max(1, distance(before, other));
    this.view.zoom(grown, (now.x + other.x) / 2, (now.y + other.y) / 2);
    this.view.move((camera) => pan(camera, (now.x - before.x) / 2, (now.y - before.y) / 2));
  }

  private readonly onUp = (e: PointerEvent): void => {
    this.pointers.delete(e.pointerId);
    this.view.schedule();
  };

  /** With the drawing itself in focus, arrows move it. */
  private readonly onKey = (e: KeyboardEvent): void => {
    const by = ways[e.key];
    if (!by || e.shiftKey) return;
    e.preventDefault();
    e.stopPropagation();
    this.view.move((camera) => pan(camera, ...by));
  };
}
