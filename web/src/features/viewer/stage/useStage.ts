/** The canvas in motion, for React. */
import { useEffect, useMemo, useRef } from 'react';
import type { Camera } from '../camera.ts';
import type { Painted } from '../paint/scene.ts';
import { changeAt, mapTarget, onPage, partAt, pinUnder, snappedTo, type Shown } from './hits.ts';
import { StageState } from './state.ts';

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
  /**
   * The part of the sheet that is drawn nearest to a point of the canvas, by its index; only for pages drawn from
   * parts.
   */
  readonly partAt: (x: number, y: number) => number | undefined;
  /** The end of a line at a point of the canvas, in page coordinates; else the point itself. */
  readonly snapped: (x: number, y: number) => readonly [number, number] | undefined;
  /** Where a point of the canvas lies on the page. */
  readonly toPage: (x: number, y: number) => readonly [number, number] | undefined;
  /** True where the last press moved the view. */
  readonly dragged: () => boolean;
}

/** A stage on a canvas; `onRest` is told once where the view came to rest. */
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
  return useMemo((): Stage => {
    const shown = (): Shown | undefined => state.current?.shown;
    /** What a look at what is shown gives; undefined before there is anything. */
    const ask = <T>(question: (shown: Shown) => T | undefined): T | undefined => {
      const now = shown();
      return now && question(now);
    };
    return {
      zoom: (factor, x, y) => state.current?.zoom(factor, x, y),
      fly: (to) => state.current?.fly(to),
      pick: (x, y) => ask((now) => changeAt(now, x, y)),
      mapTo: (x, y) => {
        const to = ask((now) => mapTarget(now, x, y));
        if (to) state.current?.fly(to);
        return to !== undefined;
      },
      pinAt: (x, y) => ask((now) => pinUnder(now, x, y)),
      scale: () => state.current?.scale ?? 1,
      partAt: (x, y) => ask((now) => partAt(now, x, y)),
      snapped: (x, y) => ask((now) => snappedTo(now, x, y)),
      toPage: (x, y) => ask((now) => onPage(now, x, y)),
      dragged: () => state.current?.moved ?? false,
    };
  }, []);
}
