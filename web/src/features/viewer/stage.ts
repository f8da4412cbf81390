/** The canvas in motion: owns the camera, listens to pointers and keys, and draws when something changed. */
import { useEffect, useMemo, useRef } from 'react';
import { between, pan, zoomAt, type Camera } from './camera.ts';
import { paint, type Painted } from './paint/paint.ts';
import { minimapIn, throughMinimap } from './minimap.ts';
import { pinAt } from './pins.ts';

const FLIGHT = 380;
const PULSE = 700;
/** A frame that took longer than this is not drawn anew while the view moves; its picture is moved instead. */
const SLOW = 40;
/** A view that stood for so many milliseconds is worth a finer drawing. */
const REST = 220;
/** The wheel counts as still after so many milliseconds. */
const SETTLED = 140;

export interface Stage {
  readonly zoom: (factor: number, x: number, y: number) => void;
  readonly fly: (to: Camera) => void;
  /** The change drawn at a point of the canvas. */
  readonly pick: (x: number, y: number) => string | undefined;
  /** Goes to where a click on the small page points; false beside it. */
  readonly mapTo: (x: number, y: number) => boolean;
  /** The comment whose flag lies at a point of the canvas. */
  readonly pinAt: (x: number, y: number) => string | undefined;
  /** CSS pixels a unit of the page. */
  readonly scale: () => number;
  /** The part of the sheet that is drawn nearest to a point of the canvas, by its index; only for pages drawn from parts. */
  readonly partAt: (x: number, y: number) => number | undefined;
  /** The end of a line at a point of the canvas, in page coordinates; else the point itself. */
  readonly snapped: (x: number, y: number) => readonly [number, number] | undefined;
  /** Where a point of the canvas lies on the page. */
  readonly toPage: (x: number, y: number) => readonly [number, number] | undefined;
  /** True where the last press moved the view. */
  readonly dragged: () => boolean;
}

/** Owns the camera and the drawing loop: draws on change, coarse while moving if a frame is slow, sharp when still. */
export function useStage(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  size: { width: number; height: number } | undefined,
  scene: Painted,
  whole: Camera | undefined,
  onRest?: (camera: Camera) => void,
): Stage {
  const state = useRef<StageState>(undefined);
  useEffect(() => {
    const el = canvas.current;
    if (!el) return undefined;
    const made = new StageState(el);
    state.current = made;
    return () => made.end();
  }, [canvas]);
  useEffect(() => {
    state.current?.update(scene, size, whole, onRest);
  });
  return useMemo(
    (): Stage => ({
      zoom: (factor, x, y) => state.current?.zoom(factor, x, y),
      fly: (to) => state.current?.fly(to),
      pick: (x, y) => state.current?.pick(x, y),
      mapTo: (x, y) => state.current?.mapTo(x, y) ?? false,
      pinAt: (x, y) => state.current?.pinAt(x, y),
      scale: () => state.current?.scale ?? 1,
      partAt: (x, y) => state.current?.partAt(x, y),
      snapped: (x, y) => state.current?.snapped(x, y),
      toPage: (x, y) => state.current?.toPage(x, y),
      dragged: () => state.current?.moved ?? false,
    }),
    [],
  );
}

class StageState {
  moved = false;
  private readonly canvas: HTMLCanvasElement;
  private readonly context: CanvasRenderingContext2D | null;
  private camera: Camera | undefined;
  private whole: Camera | undefined;
  private scene: Painted | undefined;
  private size: { width: number; height: number } | undefined;
  private request = 0;
  private flight: { from: Camera; to: Camera; start: number } | undefined;
  private pulseStart = 0;
  private still: ReturnType<typeof setTimeout> | undefined;
  /** Told once where the view came to rest. */
  private onRest: ((camera: Camera) => void) | undefined;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private rested: Camera | undefined;
  private cost = 0;
  private wheeled = -Infinity;
  /** Milliseconds of the last frames. */
  readonly frames: number[] = [];
  private snapshot: { bitmap: HTMLCanvasElement; camera: Camera; scene: Painted } | undefined;
  private readonly pointers = new Map<number, { x: number; y: number }>();
  private readonly controller = new AbortController();

  constructor(canvas: HTMLCanvasElement) {
    this.canvas = canvas;
    this.context = canvas.getContext('2d');
    const { signal } = this.controller;
    canvas.addEventListener('wheel', this.onWheel, { passive: false, signal });
    canvas.addEventListener('pointerdown', this.onDown, { signal });
    canvas.addEventListener('pointermove', this.onMove, { signal });
    canvas.addEventListener('pointerup', this.onUp, { signal });
    canvas.addEventListener('pointercancel', this.onUp, { signal });
    canvas.addEventListener('keydown', this.onKey, { signal });
  }

  end(): void {
    this.controller.abort();
    cancelAnimationFrame(this.request);
    clearTimeout(this.still);
    clearTimeout(this.resting);
  }

  update(
    scene: Painted,
    size: { width: number; height: number } | undefined,
    whole: Camera | undefined,
    onRest: ((camera: Camera) => void) | undefined,
  ): void {
    this.onRest = onRest;
    const resized = size?.width !== this.size?.width || size?.height !== this.size?.height;
    if (size && resized) {
      const ratio = window.devicePixelRatio || 1;
      this.canvas.width = Math.round(size.width * ratio);
      this.canvas.height = Math.round(size.height * ratio);
    }
    // A new page, or a view of another width, begins with the whole page in sight.
    if (
      whole &&
      (!this.camera || !this.whole || Math.abs(whole.scale / this.whole.scale - 1) > 1e-6 || whole.x !== this.whole.x)
    )
      this.camera = whole;
    const same = this.scene && (Object.keys(scene) as (keyof Painted)[]).every((k) => scene[k] === this.scene?.[k]);
    this.scene = scene;
    this.size = size;
    this.whole = whole;
    if (!same || resized) this.schedule();
  }

  zoom(factor: number, x: number, y: number): void {
    if (!this.camera || !this.whole) return;
    this.flight = undefined;
    this.camera = zoomAt(this.camera, factor, x, y, this.whole);
    this.schedule();
  }

  fly(to: Camera): void {
    if (!this.camera) return;
    const calm = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    this.pulseStart = calm ? -Infinity : performance.now() + FLIGHT;
    if (calm) this.camera = to;
    else this.flight = { from: this.camera, to, start: performance.now() };
    this.schedule();
  }

  pick(x: number, y: number): string | undefined {
    const { camera: m, scene, size } = this;
    if (!m || !scene || !size) return undefined;
    const half = scene.look === 'side' ? size.width / 2 : Infinity;
    const px = ((x > half ? x - half : x) - m.x) / m.scale;
    const py = (y - m.y) / m.scale;
    const slack = 5 / m.scale;
    const inside = (box: readonly number[] | null): boolean =>
      box !== null &&
      px >= (box[0] as number) - slack &&
      px <= (box[2] as number) + slack &&
      py >= (box[1] as number) - slack &&
      py <= (box[3] as number) + slack;
    const area = (box: readonly number[] | null): number =>
      box ? ((box[2] as number) - (box[0] as number)) * ((box[3] as number) - (box[1] as number)) : Infinity;
    const hits = scene.changes.filter((c) => inside(c.boxA) || inside(c.boxB));
    return hits.sort((p, q) => Math.min(area(p.boxA), area(p.boxB)) - Math.min(area(q.boxA), area(q.boxB)))[0]?.id;
  }

  partAt(x: number, y: number): number | undefined {
    const { camera: m, scene } = this;
    return m && scene?.b?.renderer?.partAt(m, x, y, 7);
  }

  mapTo(x: number, y: number): boolean {
    const { camera: m, scene, size } = this;
    const box = scene?.b?.box;
    if (!m || !size || !box || !scene.comparing || !scene.changes.length || scene.look === 'side') return false;
    const map = minimapIn(box, m, size.width, size.height);
    const to = map && throughMinimap(map, box, m, x, y, size.width, size.height);
    if (to) this.fly(to);
    return to !== undefined;
  }

  pinAt(x: number, y: number): string | undefined {
    const { camera: m, scene, size } = this;
    if (!m || !scene || !size) return undefined;
    const shift = scene.comparing && scene.look === 'side' ? Math.floor(size.width / 2) : 0;
    return pinAt(scene.pins, { ...m, x: m.x + shift }, x, y);
  }

  snapped(x: number, y: number): readonly [number, number] | undefined {
    const { camera: m, scene, size } = this;
    const half = scene?.comparing && scene.look === 'side' && size && x > size.width / 2 ? size.width / 2 : 0;
    return (m && scene?.b?.renderer?.endAt(m, x - half, y, 9)) ?? this.toPage(x, y);
  }

  get scale(): number {
    return this.camera?.scale ?? 1;
  }

  toPage(x: number, y: number): readonly [number, number] | undefined {
    const { camera: m, scene, size } = this;
    if (!m || !scene || !size) return undefined;
    const half = scene.comparing && scene.look === 'side' && x > size.width / 2 ? size.width / 2 : 0;
    return [(x - half - m.x) / m.scale, (y - m.y) / m.scale];
  }

  private schedule(): void {
    cancelAnimationFrame(this.request);
    this.request = requestAnimationFrame(this.draw);
  }

  private readonly draw = (now: number): void => {
    const { context, size, scene } = this;
    if (!context || !size || !scene || !this.camera) return;
    if (this.flight) {
      const t = Math.min(1, (now - this.flight.start) / FLIGHT);
      this.camera = between(this.flight.from, this.flight.to, Math.max(0, t));
      if (t >= 1) this.flight = undefined;
    }
    const pulse = Math.min(1, Math.max(0, (now - this.pulseStart) / PULSE));
    const ratio = window.devicePixelRatio || 1;
    const moving = this.flight !== undefined || this.pointers.size > 0;
    const own = [scene.a, scene.b].flatMap((s) => s?.renderer ?? []);
    if (moving && !own.length && this.cost > SLOW && this.snapshot && this.snapshot.scene === scene)
      this.coarse(context, size, ratio);
    else {
      const start = performance.now();
      paint(
        { context, ...size, ratio, moving: moving || now - this.wheeled < SETTLED },
        { ...scene, pulse },
        this.camera,
      );
      this.cost = performance.now() - start;
      this.frames.push(this.cost);
      if (this.frames.length > 60) this.frames.shift();
      if (this.cost > SLOW && !own.length) this.keep(scene);
    }
    clearTimeout(this.still);
    clearTimeout(this.resting);
    if (this.camera !== this.rested) this.resting = setTimeout(this.rest, REST);
    if (this.flight || (scene.selected && pulse < 1)) this.schedule();
    else if (now - this.wheeled < SETTLED) this.still = setTimeout(() => this.schedule(), SETTLED);
    else if (!moving && own.some((r) => !r.complete)) this.schedule();
    else if (moving) this.still = setTimeout(() => this.schedule(), 120);
  };

  private readonly rest = (): void => {
    if (this.flight || this.pointers.size || !this.camera) return;
    this.rested = this.camera;
    this.onRest?.(this.camera);
  };

  /** The last sharp frame, moved to where the view is now. */
  private coarse(context: CanvasRenderingContext2D, size: { width: number; height: number }, ratio: number): void {
    const { snapshot, camera } = this;
    if (!snapshot || !camera) return;
    const k = camera.scale / snapshot.camera.scale;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, size.width, size.height);
    context.drawImage(
      snapshot.bitmap,
      camera.x - snapshot.camera.x * k,
      camera.y - snapshot.camera.y * k,
      size.width * k,
      size.height * k,
    );
  }

  private keep(scene: Painted): void {
    if (!this.camera) return;
    const bitmap = this.snapshot?.bitmap ?? document.createElement('canvas');
    bitmap.width = this.canvas.width;
    bitmap.height = this.canvas.height;
    bitmap.getContext('2d')?.drawImage(this.canvas, 0, 0);
    this.snapshot = { bitmap, camera: this.camera, scene };
  }

  private local(e: MouseEvent): { x: number; y: number } {
    const box = this.canvas.getBoundingClientRect();
    const x = e.clientX - box.left;
    const half = this.scene?.comparing && this.scene.look === 'side' ? box.width / 2 : Infinity;
    return { x: x > half ? x - half : x, y: e.clientY - box.top };
  }

  private readonly onWheel = (e: WheelEvent): void => {
    e.preventDefault();
    const { x, y } = this.local(e);
    this.wheeled = performance.now();
    this.zoom(Math.exp(-e.deltaY * (e.ctrlKey ? 0.01 : 0.0015) * (e.deltaMode === 1 ? 20 : 1)), x, y);
  };

  private readonly onDown = (e: PointerEvent): void => {
    this.canvas.setPointerCapture(e.pointerId);
    this.pointers.set(e.pointerId, this.local(e));
    if (this.pointers.size === 1) this.moved = false;
  };

  private readonly onMove = (e: PointerEvent): void => {
    const before = this.pointers.get(e.pointerId);
    if (!before || !this.camera || !this.whole) return;
    const now = this.local(e);
    const other = [...this.pointers].find(([id]) => id !== e.pointerId)?.[1];
    if (other) {
      const grown =
        Math.hypot(now.x - other.x, now.y - other.y) / Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
      this.camera = zoomAt(this.camera, grown, (now.x + other.x) / 2, (now.y + other.y) / 2, this.whole);
      this.camera = pan(this.camera, (now.x - before.x) / 2, (now.y - before.y) / 2);
    } else this.camera = pan(this.camera, now.x - before.x, now.y - before.y);
    if (Math.hypot(now.x - before.x, now.y - before.y) > 2 || other) this.moved = true;
    this.pointers.set(e.pointerId, now);
    this.flight = undefined;
    this.schedule();
  };

  private readonly onUp = (e: PointerEvent): void => {
    this.pointers.delete(e.pointerId);
    this.schedule();
  };

  /** With the drawing itself in focus, arrows move it. */
  private readonly onKey = (e: KeyboardEvent): void => {
    const way: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [60, 0],
      ArrowRight: [-60, 0],
      ArrowUp: [0, 60],
      ArrowDown: [0, -60],
    };
    const by = way[e.key];
    if (!by || e.shiftKey || !this.camera) return;
    e.preventDefault();
    e.stopPropagation();
    this.camera = pan(this.camera, ...by);
    this.schedule();
  };
}
