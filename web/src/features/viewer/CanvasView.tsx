'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useKeys } from '../frame/keys.tsx';
import { fit, flyTo, pan, zoomAt, between, type Box, type Camera } from './camera.ts';
import { legend, lookNames, looks, signOf, type Look } from './looks.ts';
import { paint, type Scene } from './paint.ts';
import { useSheet } from './useSheet.ts';
import type { ViewerProps } from './Viewer.tsx';

const BLINK = 700;
const FLIGHT = 380;
const PULSE = 700;
/** A frame that took longer than this is not drawn anew while the view moves; its picture is moved instead. */
const SLOW = 40;

const boxOf = (box: readonly number[] | undefined): Box | undefined => (box?.length === 4 ? (box as unknown as Box) : undefined);

export function CanvasView(props: ViewerProps): React.ReactNode {
  const { a, b, comparing, detail, result, shown, selected, onSelect, look, onLook, onStepChange } = props;
  const pixels = comparing ? result?.comparison.level !== 'parts' : detail?.look.level !== 'parts';
  const boxB = boxOf(comparing ? result?.picture.pageB?.box : detail?.look.page?.box);
  const { sheet: sheetB, broken } = useSheet(b, pixels ? undefined : boxB);
  const { sheet: sheetA } = useSheet(comparing ? a : undefined, pixels ? undefined : boxOf(result?.picture.pageA?.box));
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number }>();
  const [curtain, setCurtain] = useState(0.5);
  const [blinkA, setBlinkA] = useState(false);
  const [paused, setPaused] = useState(false);
  const viewWidth = size && comparing && look === 'side' ? size.width / 2 : size?.width;
  const page = sheetB?.box ?? sheetA?.box;
  const [p0, p1, p2, p3] = page ?? [];
  const whole = useMemo(() => (p0 !== undefined && viewWidth && size ? fit([p0, p1 as number, p2 as number, p3 as number], viewWidth, size.height) : undefined), [p0, p1, p2, p3, viewWidth, size]);
  const scene: Scene = {
    look, a: sheetA, b: sheetB, comparing, changes: comparing ? shown : [], outlines: result?.picture.outlines ?? {}, pixels, selected, pulse: 1, curtain, blinkA,
  };
  const stage = useStage(canvas, size, scene, whole);

  useEffect(() => {
    const el = frame.current;
    if (!el) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: el.clientWidth, height: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!comparing || look !== 'blink' || paused) return undefined;
    const timer = setInterval(() => setBlinkA((x) => !x), BLINK);
    return () => clearInterval(timer);
  }, [comparing, look, paused]);
  const chosen = comparing ? shown.find((c) => c.id === selected) : undefined;
  useEffect(() => {
    const boxes = [chosen?.boxA, chosen?.boxB].filter((x): x is NonNullable<typeof x> => Boolean(x));
    if (!boxes.length || !whole || !viewWidth || !size) return;
    const target = boxes.reduce<Box>((s, x) => [Math.min(s[0], x[0]), Math.min(s[1], x[1]), Math.max(s[2], x[2]), Math.max(s[3], x[3])], boxes[0] as Box);
    stage.fly(flyTo(target, whole, viewWidth, size.height));
  }, [chosen, whole, viewWidth, size, stage]);

  const centre = (): readonly [number, number] => [(viewWidth ?? 0) / 2, (size?.height ?? 0) / 2];
  const chooseLook = (next: Look): void => onLook(next);
  useKeys([
    { key: '+', says: 'Closer', run: () => stage.zoom(1.25, ...centre()) },
    { key: '-', says: 'Further away', run: () => stage.zoom(0.8, ...centre()) },
    { key: '0', says: 'Whole page', run: () => whole && stage.fly(whole) },
    ...(comparing ? looks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => chooseLook(l) })) : []),
    ...(comparing && look === 'blink' ? [{ key: ' ', says: 'Stop or go on blinking', run: () => setPaused((x) => !x) }] : []),
  ]);
  return (
    <>
      <div className="ov-bar">
        {comparing && looks.map((l, i) => <Button key={l} size="sm" variant="outline-secondary" active={look === l} aria-pressed={look === l} onClick={() => chooseLook(l)} title={`Key ${i + 1}`}>{lookNames[l]}</Button>)}
        {comparing && look === 'blink' && <Button size="sm" variant="outline-secondary" onClick={() => setPaused((x) => !x)}>{paused ? 'Go on' : 'Stop'}</Button>}
        <span className="is-push" />
        {comparing && shown.length > 0 && <><Button size="sm" variant="outline-secondary" onClick={() => onStepChange(-1)} title="Key P">Previous change</Button><Button size="sm" variant="outline-secondary" onClick={() => onStepChange(1)} title="Key N">Next change</Button></>}
        <Button size="sm" variant="outline-secondary" aria-label="Further away" title="Key −" onClick={() => stage.zoom(0.8, ...centre())}>−</Button>
        <Button size="sm" variant="outline-secondary" aria-label="Closer" title="Key +" onClick={() => stage.zoom(1.25, ...centre())}>+</Button>
        <Button size="sm" variant="outline-secondary" title="Key 0" onClick={() => whole && stage.fly(whole)}>Whole page</Button>
      </div>
      <div className="ov-canvas" ref={frame}>
        <canvas ref={canvas} tabIndex={0} role="img" aria-label={comparing ? `v${a.number} and v${b.number}, ${lookNames[look]}` : `v${b.number}`} data-ready={Boolean(sheetB && (!comparing || sheetA))}
          onClick={(e) => {
            const id = comparing && !stage.dragged() ? stage.pick(e.nativeEvent.offsetX, e.nativeEvent.offsetY) : undefined;
            if (id) onSelect(id);
          }} />
        {comparing && look === 'curtain' && size && <Curtain at={curtain} width={size.width} onMove={setCurtain} />}
        {comparing && look === 'side' && <><span className="ov-tag is-a">A v{a.number}</span><span className="ov-tag is-b is-mid">B v{b.number}</span></>}
        {comparing && look === 'curtain' && <><span className="ov-tag is-a">A v{a.number}</span><span className="ov-tag is-b">B v{b.number}</span></>}
        {comparing && look === 'blink' && <span className={`ov-tag ${blinkA ? 'is-a' : 'is-b'}`}>{blinkA ? `A v${a.number}` : `B v${b.number}`}</span>}
        {broken && <div className="ov-waiting" role="alert"><div>v{b.number} is kept, but your browser cannot draw it. It can be downloaded.</div></div>}
        {!broken && !sheetB && <div className="ov-waiting" role="status"><div>Drawing v{b.number} …</div></div>}
      </div>
      {comparing && (
        <div className="ov-legend" aria-label="Legend">
          {pixels ? <span>{look === 'overlay' || look === 'only' ? 'White: equal in A and B. Darker or coloured: different pixels.' : 'Pictures are shown as they are; only their bytes were compared.'}</span>
            : <>{legend.map(([kind, says]) => <span key={kind}><span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {says}</span>)}{look === 'overlay' && <span className="ov-quiet">faint: untouched</span>}</>}
        </div>
      )}
    </>
  );
}

function Curtain({ at, width, onMove }: { at: number; width: number; onMove: (at: number) => void }): React.ReactNode {
  const move = (x: number): void => onMove(Math.min(Math.max(x, 0.02), 0.98));
  return (
    <div className="ov-curtain" style={{ left: at * width }} role="slider" tabIndex={0} aria-label="Curtain between A and B" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(at * 100)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && move((e.clientX - (e.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)) / width)}
      onKeyDown={(e) => { const by = e.key === 'ArrowLeft' ? -0.03 : e.key === 'ArrowRight' ? 0.03 : 0; if (by) { e.preventDefault(); e.stopPropagation(); move(at + by); } }} />
  );
}

interface Stage {
  readonly zoom: (factor: number, x: number, y: number) => void;
  readonly fly: (to: Camera) => void;
  /** The change drawn at a point of the canvas. */
  readonly pick: (x: number, y: number) => string | undefined;
  /** True where the last press moved the view. */
  readonly dragged: () => boolean;
}

/** Owns the camera and the drawing loop: draws on change, coarse while moving if a frame is slow, sharp when still. */
function useStage(canvas: React.RefObject<HTMLCanvasElement | null>, size: { width: number; height: number } | undefined, scene: Scene, whole: Camera | undefined): Stage {
  const state = useRef<StageState>(undefined);
  useEffect(() => {
    const el = canvas.current;
    if (!el) return undefined;
    const made = new StageState(el);
    state.current = made;
    return () => made.end();
  }, [canvas]);
  useEffect(() => {
    state.current?.update(scene, size, whole);
  });
  return useMemo((): Stage => ({
    zoom: (factor, x, y) => state.current?.zoom(factor, x, y),
    fly: (to) => state.current?.fly(to),
    pick: (x, y) => state.current?.pick(x, y),
    dragged: () => state.current?.moved ?? false,
  }), []);
}

class StageState {
  moved = false;
  private readonly canvas: HTMLCanvasElement;
  private readonly context: CanvasRenderingContext2D | null;
  private camera: Camera | undefined;
  private whole: Camera | undefined;
  private scene: Scene | undefined;
  private size: { width: number; height: number } | undefined;
  private request = 0;
  private flight: { from: Camera; to: Camera; start: number } | undefined;
  private pulseStart = 0;
  private still: ReturnType<typeof setTimeout> | undefined;
  private cost = 0;
  private snapshot: { bitmap: HTMLCanvasElement; camera: Camera; scene: Scene } | undefined;
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
  }

  update(scene: Scene, size: { width: number; height: number } | undefined, whole: Camera | undefined): void {
    const resized = size?.width !== this.size?.width || size?.height !== this.size?.height;
    if (size && resized) {
      const ratio = window.devicePixelRatio || 1;
      this.canvas.width = Math.round(size.width * ratio);
      this.canvas.height = Math.round(size.height * ratio);
    }
    // A new page, or a view of another width, begins with the whole page in sight.
    if (whole && (!this.camera || !this.whole || Math.abs(whole.scale / this.whole.scale - 1) > 1e-6 || whole.x !== this.whole.x)) this.camera = whole;
    const same = this.scene && (Object.keys(scene) as (keyof Scene)[]).every((k) => scene[k] === this.scene?.[k]);
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
    const px = ((x > half ? x - half : x) - m.x) / m.scale, py = (y - m.y) / m.scale, slack = 5 / m.scale;
    const inside = (box: readonly number[] | null): boolean => box !== null && px >= (box[0] as number) - slack && px <= (box[2] as number) + slack && py >= (box[1] as number) - slack && py <= (box[3] as number) + slack;
    const area = (box: readonly number[] | null): number => (box ? ((box[2] as number) - (box[0] as number)) * ((box[3] as number) - (box[1] as number)) : Infinity);
    const hits = scene.changes.filter((c) => inside(c.boxA) || inside(c.boxB));
    return hits.sort((p, q) => Math.min(area(p.boxA), area(p.boxB)) - Math.min(area(q.boxA), area(q.boxB)))[0]?.id;
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
    if (moving && this.cost > SLOW && this.snapshot && this.snapshot.scene === scene) this.coarse(context, size, ratio);
    else {
      const start = performance.now();
      paint({ context, ...size, ratio }, { ...scene, pulse }, this.camera);
      this.cost = performance.now() - start;
      if (this.cost > SLOW) this.keep(scene);
    }
    clearTimeout(this.still);
    if (this.flight || (scene.selected && pulse < 1)) this.schedule();
    else if (moving) this.still = setTimeout(() => this.schedule(), 120);
  };

  /** The last sharp frame, moved to where the view is now. */
  private coarse(context: CanvasRenderingContext2D, size: { width: number; height: number }, ratio: number): void {
    const { snapshot, camera } = this;
    if (!snapshot || !camera) return;
    const k = camera.scale / snapshot.camera.scale;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, size.width, size.height);
    context.drawImage(snapshot.bitmap, camera.x - snapshot.camera.x * k, camera.y - snapshot.camera.y * k, size.width * k, size.height * k);
  }

  private keep(scene: Scene): void {
    if (!this.camera) return;
    const bitmap = this.snapshot?.bitmap ?? document.createElement('canvas');
    bitmap.width = this.canvas.width;
    bitmap.height = this.canvas.height;
    bitmap.getContext('2d')?.drawImage(this.canvas, 0, 0);
    this.snapshot = { bitmap, camera: this.camera, scene };
  }

  private local(e: MouseEvent): { x: number; y: number } {
    const box = this.canvas.getBoundingClientRect();
    const x = e.clientX - box.left, half = this.scene?.comparing && this.scene.look === 'side' ? box.width / 2 : Infinity;
    return { x: x > half ? x - half : x, y: e.clientY - box.top };
  }

  private readonly onWheel = (e: WheelEvent): void => {
    e.preventDefault();
    const { x, y } = this.local(e);
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
      const grown = Math.hypot(now.x - other.x, now.y - other.y) / Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
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
    const way: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] };
    const by = way[e.key];
    if (!by || e.shiftKey || !this.camera) return;
    e.preventDefault();
    e.stopPropagation();
    this.camera = pan(this.camera, ...by);
    this.schedule();
  };
}
