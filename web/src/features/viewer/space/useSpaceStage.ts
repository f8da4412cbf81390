'use client';

/** The stage on the canvas, and where one looks from: by pointer, by keys, and by flights. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { SpaceHead } from '@ovrel/core/space';
import { fitted, panned, standardViews, turned, zoomed, type Box3, type Orbit } from './orbit.ts';
import type { PartPicked } from './PickedPart.tsx';
import { SpaceStage, type Shown } from './stage.ts';
import type { Spaces } from './useSpaces.ts';
import type { Spot3 } from './ways.ts';

export interface SpaceInView {
  readonly fly: (box: Box3) => void;
  readonly from: (id: string) => void;
  readonly zoom: (factor: number) => void;
  readonly turn: (turn: number, rise: number) => void;
  readonly whole: () => void;
  /** The place on a surface under a place of the canvas, in the coordinates of the scene. */
  readonly spot: (x: number, y: number) => Spot3 | undefined;
  /** Where a place of the scene is on the canvas; undefined where it is out of sight. */
  readonly seenAt: (point: Spot3) => readonly [x: number, y: number] | undefined;
  /** `drawn` is called after every picture. */
  readonly whenDrawn: (drawn: () => void) => void;
  readonly pick: (x: number, y: number) => PartPicked | undefined;
  /** False where the pointer was drawn over the canvas before it was let go. */
  readonly isClick: () => boolean;
  readonly width: number;
  /** Why nothing can be drawn at all. */
  readonly broken: string | undefined;
}

const NO_GRAPHICS = 'This browser gives no graphics in space.';

export function useSpaceStage(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  frame: React.RefObject<HTMLDivElement | null>,
  spaces: Spaces,
  shown: Shown | undefined,
): SpaceInView {
  const stage = useRef<SpaceStage>(undefined);
  const orbit = useRef<Orbit>(undefined);
  const dragged = useRef(false);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [broken, setBroken] = useState<string>();
  useEffect(() => {
    if (!canvas.current || !frame.current) return undefined;
    const el = frame.current;
    let made: SpaceStage;
    try {
      made = new SpaceStage(canvas.current);
    } catch {
      setBroken(NO_GRAPHICS);
      return undefined;
    }
    stage.current = made;
    const observer = new ResizeObserver(() => {
      made.resize(el.clientWidth, el.clientHeight);
      setSize({ width: el.clientWidth, height: el.clientHeight });
    });
    observer.observe(el);
    return () => {
      observer.disconnect();
      made.end();
      stage.current = undefined;
    };
  }, [canvas, frame]);
  const { head } = spaces.b ?? {};
  const all = useMemo(() => head && boxInScene(head), [head]);
  const look = (next: Orbit): void => {
    orbit.current = next;
    stage.current?.look(next);
  };
  const aspect = size.height > 0 ? size.width / size.height : 1;
  useEffect(() => {
    if (!shown || !all) return;
    stage.current?.show(shown, Math.hypot(all[3] - all[0], all[4] - all[1], all[5] - all[2]));
    if (!orbit.current && size.width > 0) look(fitted(all, standardViews[0], aspect));
    else if (orbit.current) stage.current?.look(orbit.current);
  }, [shown, all, size.width, aspect]);
  usePointer(canvas, orbit, dragged, look);
  const step = (next: (orbit: Orbit) => Orbit) => (): void => {
    if (orbit.current) look(next(orbit.current));
  };
  const [x = 0, y = 0, z = 0] = head?.origin ?? [];
  return {
    width: size.width,
    broken,
    isClick: () => !dragged.current,
    seenAt: (point) => stage.current?.seenAt(point),
    whenDrawn: (drawn) => {
      if (stage.current) stage.current.onDrawn = drawn;
    },
    pick: (px, py) => stage.current?.pick(px, py),
    spot: (px, py) => stage.current?.spot(px, py),
    zoom: (factor) => step((o) => zoomed(o, factor))(),
    turn: (turn, rise) => step((o) => turned(o, turn, rise))(),
    whole: () => all && step((o) => fitted(all, o, aspect))(),
    from: (id) => {
      const found = standardViews.find((one) => one.id === id);
      if (found && all) look(fitted(all, found, aspect));
    },
    fly: (box) => {
      const here: Box3 = [box[0] - x, box[1] - y, box[2] - z, box[3] - x, box[4] - y, box[5] - z];
      step((o) => {
        const near = fitted(here, o, aspect);
        // So near that one no longer sees where one is helps nobody.
        const least = all ? fitted(all, o, aspect).distance / 3 : near.distance;
        return { ...near, distance: Math.max(near.distance, least) };
      })();
    },
  };
}

/** All of a model, from the origin of its scene. */
export function boxInScene({ origin, box }: SpaceHead): Box3 {
  const [x = 0, y = 0, z = 0] = origin;
  const [x0 = 0, y0 = 0, z0 = 0, x1 = 0, y1 = 0, z1 = 0] = box;
  return [x0 - x, y0 - y, z0 - z, x1 - x, y1 - y, z1 - z];
}

/** Pixels that a pointer may go for a click. */
const STILL = 4;
const DEGREES_A_PIXEL = 0.4;

/** Turned with the main button or one finger, moved with another button or Shift, nearer and further with the wheel or two fingers. */
function usePointer(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  orbit: React.RefObject<Orbit | undefined>,
  dragged: React.RefObject<boolean>,
  look: (orbit: Orbit) => void,
): void {
  const latest = useRef(look);
  useEffect(() => {
    latest.current = look;
  });
  useEffect(() => {
    const el = canvas.current;
    if (!el) return undefined;
    const down = new Map<number, { x: number; y: number }>();
    let way = 0;
    const onDown = (e: PointerEvent): void => {
      el.setPointerCapture(e.pointerId);
      down.set(e.pointerId, { x: e.clientX, y: e.clientY });
      way = 0;
      dragged.current = false;
    };
    const onMove = (e: PointerEvent): void => {
      const before = down.get(e.pointerId);
      if (!before || !orbit.current) return;
      const [dx, dy] = [e.clientX - before.x, e.clientY - before.y];
      way += Math.hypot(dx, dy);
      dragged.current = way > STILL;
      const others = [...down].filter(([id]) => id !== e.pointerId).map(([, at]) => at);
      down.set(e.pointerId, { x: e.clientX, y: e.clientY });
      const [other] = others;
      if (other) {
        const [was, is] = [
          Math.hypot(before.x - other.x, before.y - other.y),
          Math.hypot(e.clientX - other.x, e.clientY - other.y),
        ];
        latest.current(panned(zoomed(orbit.current, was / (is || 1)), dx / 2, dy / 2, el.clientHeight));
      } else if (e.shiftKey || e.buttons !== 1) latest.current(panned(orbit.current, dx, dy, el.clientHeight));
      else latest.current(turned(orbit.current, -dx * DEGREES_A_PIXEL, dy * DEGREES_A_PIXEL));
    };
    const onUp = (e: PointerEvent): void => void down.delete(e.pointerId);
    const onWheel = (e: WheelEvent): void => {
      e.preventDefault();
      if (orbit.current) latest.current(zoomed(orbit.current, Math.exp(Math.sign(e.deltaY) * 0.12)));
    };
    const noMenu = (e: Event): void => e.preventDefault();
    el.addEventListener('pointerdown', onDown);
    el.addEventListener('pointermove', onMove);
    el.addEventListener('pointerup', onUp);
    el.addEventListener('pointercancel', onUp);
    el.addEventListener('wheel', onWheel, { passive: false });
    el.addEventListener('contextmenu', noMenu);
    return () => {
      el.removeEventListener('pointerdown', onDown);
      el.removeEventListener('pointermove', onMove);
      el.removeEventListener('pointerup', onUp);
      el.removeEventListener('pointercancel', onUp);
      el.removeEventListener('wheel', onWheel);
      el.removeEventListener('contextmenu', noMenu);
    };
  }, [canvas, orbit, dragged]);
}
