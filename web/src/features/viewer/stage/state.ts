import { between, zoomAt, type Camera } from '../camera.ts';
import { paint, type Painted } from '../paint/paint.ts';
import { Gestures, type Movable } from './gestures.ts';
import type { Shown } from './hits.ts';

const FLIGHT = 380;
const PULSE = 700;
/** A frame that took longer than this is not drawn anew while the view moves; its picture is moved instead. */
const SLOW = 40;
/** A view that stood for so many milliseconds is worth a finer drawing. */
const REST = 220;
/** The wheel counts as still after so many milliseconds. */
const SETTLED = 140;

/** Owns the camera and the drawing loop: draws on change, coarse while moving if a frame is slow, sharp when still. */
export class StageState implements Movable {
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
  /** Milliseconds of the last frames. */
  readonly frames: number[] = [];
  private snapshot: { bitmap: HTMLCanvasElement; camera: Camera; scene: Painted } | undefined;
  private readonly gestures: Gestures;

  constructor(canvas: HTMLCanvasElement) {
    this.canvas = canvas;
    this.context = canvas.getContext('2d');
    this.gestures = new Gestures(canvas, this);
  }

  end(): void {
    this.gestures.end();
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

  /** The last press moved the view. */
  get moved(): boolean {
    return this.gestures.moved;
  }

  zoom(factor: number, x: number, y: number): void {
    const { whole } = this;
    if (whole) this.move((camera) => zoomAt(camera, factor, x, y, whole));
  }

  /** Moves the view at once, and ends a flight. */
  move(to: (camera: Camera) => Camera): void {
    if (!this.camera) return;
    this.flight = undefined;
    this.camera = to(this.camera);
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

  get scale(): number {
    return this.camera?.scale ?? 1;
  }

  /** What is to be seen now; undefined before there is anything. */
  get shown(): Shown | undefined {
    const { camera, scene, size } = this;
    return camera && scene && size && { camera, scene, size };
  }

  /** Draws at the next frame. */
  schedule(): void {
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
    const moving = this.flight !== undefined || this.gestures.held;
    const own = [scene.a, scene.b].flatMap((s) => s?.renderer ?? []);
    if (moving && !own.length && this.cost > SLOW && this.snapshot && this.snapshot.scene === scene)
      this.coarse(context, size, ratio);
    else {
      const start = performance.now();
      paint(
        { context, ...size, ratio, moving: moving || now - this.gestures.wheeled < SETTLED },
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
    else if (now - this.gestures.wheeled < SETTLED) this.still = setTimeout(() => this.schedule(), SETTLED);
    else if (!moving && own.some((r) => !r.complete)) this.schedule();
    else if (moving) this.still = setTimeout(() => this.schedule(), 120);
  };

  private readonly rest = (): void => {
    if (this.flight || this.gestures.held || !this.camera) return;
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
}
