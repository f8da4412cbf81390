'use client';

import { useEffect } from 'react';
import { useKeys } from '../../frame/keys.tsx';
import { flyTo } from '../camera.ts';
import { lookNames, looksFor } from '../looks.ts';
import { CanvasBar } from './CanvasBar.tsx';
import { CanvasProvider, useCanvasState, type CanvasState } from './canvas-state.tsx';
import { Legend } from './Legend.tsx';
import { around, boxesOf } from './pages.ts';
import { Paper } from './Paper.tsx';

/** A drawing or a picture, or two of them. */
export function CanvasView(): React.ReactNode {
  const state = useCanvasState();
  useFlights(state);
  useCanvasKeys(state);
  return (
    <CanvasProvider value={state}>
      <CanvasBar />
      <Paper />
      {state.view.comparing && <Legend />}
    </CanvasProvider>
  );
}

/** Room around what a cause touches, as a share of the view. */
const CAUSE_MARGIN = 0.12;

/** Goes to the change that is chosen, and to what a cause touches that is looked into. */
function useFlights({ view, placed, here, whole, width, size, stage }: CanvasState): void {
  const { comparing, selected, filter } = view;
  const height = size?.height;
  const chosen = comparing ? placed.find((c) => c.id === selected) : undefined;
  useEffect(() => {
    const target = chosen && around(boxesOf(chosen));
    if (target && whole && width && height !== undefined) stage.fly(flyTo(target, whole, width, height));
  }, [chosen, whole, width, height, stage]);
  const touched = comparing && filter.cause !== undefined ? around(here.flatMap(boxesOf)) : undefined;
  const [x0, y0 = 0, x1 = 0, y1 = 0] = touched ?? [];
  useEffect(() => {
    if (x0 === undefined || !whole || !width || height === undefined) return;
    stage.fly(flyTo([x0, y0, x1, y1], whole, width, height, CAUSE_MARGIN));
  }, [x0, y0, x1, y1, whole, width, height, stage]);
}

function useCanvasKeys({ view, pixels, laid, tools, stage, size, width, whole }: CanvasState): void {
  const { comparing, look, result, move } = view;
  const centre = [(width ?? 0) / 2, (size?.height ?? 0) / 2] as const;
  const looks = comparing ? looksFor(laid !== undefined && result?.picture.laidOn === undefined) : [];
  const blinking = comparing && look === 'blink';
  useKeys([
    { key: '+', says: 'Closer', run: () => stage.zoom(1.25, ...centre) },
    { key: '-', says: 'Further away', run: () => stage.zoom(0.8, ...centre) },
    ...(pixels ? [{ key: 'g', says: 'Magnify what is under the pointer', run: tools.toggleMagnifying }] : []),
    { key: 'd', says: 'Measure distances and areas', run: tools.toggleMeasuring },
    { key: '0', says: 'Whole page', run: () => whole && stage.fly(whole) },
    ...looks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => move({ look: l }) })),
    ...(blinking ? [{ key: ' ', says: 'Stop or go on blinking', run: tools.togglePaused }] : []),
  ]);
}
