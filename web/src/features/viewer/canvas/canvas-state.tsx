'use client';

/** The drawing in the middle of the page: its sheets, its view, and the tools that are in hand. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Change } from '@ovrel/core/contract';
import { useDrawn } from '../../files/state/drawn.tsx';
import { usePicked } from '../../files/state/picked.tsx';
import { useRemarks } from '../../files/state/remarks.tsx';
import { useShown } from '../../files/state/shown.tsx';
import { contextOf } from '../../frame/context.tsx';
import { fit, type Camera } from '../camera.ts';
import { sayMeasured } from '../measure.ts';
import type { Frame } from '../paint/frames.ts';
import type { Painted, Sheet } from '../paint/paint.ts';
import { useStage, type Stage } from '../stage/useStage.ts';
import { useView, type View } from '../state.ts';
import { useHeat } from '../useDifference.ts';
import { throughBox } from '../useSheet.ts';
import { firstTouched, onPage, pageShown, type PageShown } from './pages.ts';
import {
  useLayerRows,
  useSheets,
  useSwitchedLayers,
  type LayerChoice,
  type LayerSwitches,
  type Sheets,
  type Size,
} from './useSheets.ts';
import { useTools, type Tools } from './useTools.ts';

/** How A is laid over B, of two pictures. */
type Laid = NonNullable<View['result']>['picture']['laid'];

export interface CanvasState extends Sheets, LayerChoice, LayerSwitches {
  readonly view: View;
  readonly pages: PageShown;
  readonly setPage: (name: string) => void;
  /** Two pictures, or pages drawn as pictures: the overlay shows the difference of pixels. */
  readonly pixels: boolean;
  readonly laid: Laid;
  /** False where A is shown where it was, though it can be laid over B. */
  readonly together: boolean;
  readonly toggleTogether: () => void;
  readonly tools: Tools;
  readonly stage: Stage;
  readonly size: Size | undefined;
  /** Width of one side: half of the canvas where both lie side by side. */
  readonly width: number | undefined;
  readonly whole: Camera | undefined;
  readonly measured: string;
  /** Changes that are drawn, A's boxes laid over B. */
  readonly here: readonly Change[];
  readonly placed: readonly Change[];
  readonly canvas: React.RefObject<HTMLCanvasElement | null>;
  readonly frame: React.RefObject<HTMLDivElement | null>;
}

const [CanvasProvider, useCanvas] = contextOf<CanvasState>('Canvas');
export { CanvasProvider, useCanvas };

const none: readonly Change[] = [];
/** Places of pictures are drawn as their boxes. */
const noOutlines = {};

/** Everything that the canvas and its bar need. */
export function useCanvasState(): CanvasState {
  const seen = useView();
  // Until the comparison is there, B is shown alone.
  const comparing = seen.comparing && !seen.waiting;
  const view = { ...seen, comparing };
  const { detail, difference, filter, listed, look, result, selected } = view;
  const { pins } = useRemarks();
  const pixels = (comparing ? result?.comparison.level : detail?.look.level) !== 'parts';
  const { pages, setPage } = usePages(view);
  const onlyPage = pages.names.length > 1 ? pages.page : undefined;
  const framed = useFrames(onlyPage);
  const layered = useLayerRows(view);
  const [together, setTogether] = useState(true);
  const laid = comparing && pixels ? laidOn(result, pages.page) : undefined;
  const overlaid = laid && together ? laid.matrix : undefined;
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const size = useSize(frame);
  const [rest, setRest] = useState<Camera>();
  const sheets = useSheets(view, pages, layered.alone, { pixels, overlaid, rest, size });
  const { sheetA, sheetB, head } = sheets;
  const layers = useSwitchedLayers(sheets);
  const heat = useHeat(difference, comparing && look === 'heat');
  const tools = useTools(comparing && look === 'blink');
  const width = comparing && look === 'side' && size ? size.width / 2 : size?.width;
  const whole = useWhole(sheetB?.box ?? sheetA?.box, width, size?.height);
  const measured = sayMeasured(
    tools.spots,
    head?.unit ?? detail?.look.units ?? result?.comparison.unit ?? '',
    head?.unitMillimetres ?? detail?.look.page?.unitMillimetres ?? undefined,
  );
  const placed = useMemo(() => laidOver(listed, overlaid), [listed, overlaid]);
  const { alone } = layered;
  const here = comparing ? onPage(placed, onlyPage).filter((c) => !alone || c.part.category === alone.name) : none;
  const scene: Painted = {
    look,
    a: sheetA,
    b: sheetB,
    comparing,
    changes: here,
    outlines: (laid ? undefined : result?.picture.outlines) ?? noOutlines,
    pixels,
    heat,
    selected,
    pulse: 1,
    curtain: tools.curtain,
    blinkA: tools.blinkA,
    switched: layers.switched,
    measure: tools.measuring ? { points: tools.spots, words: measured } : undefined,
    pins: onlyPage === undefined ? pins : pins.filter((pin) => pin.page === onlyPage),
    area: comparing ? filter.area : undefined,
    frames: framed,
  };
  const stage = useStage(canvas, size, scene, whole, setRest);
  return {
    view,
    pages,
    setPage,
    pixels,
    laid,
    together,
    toggleTogether: () => setTogether((on) => !on),
    ...sheets,
    ...layered,
    ...layers,
    tools,
    stage,
    size,
    width,
    whole,
    measured,
    here,
    placed,
    canvas,
    frame,
  };
}

/** What is picked, who drew what, and what is to be decided, on the page that is shown. */
function useFrames(page: string | undefined): readonly Frame[] {
  const { parts: picked, areas } = usePicked();
  const { frames } = useDrawn();
  const { proposal } = useShown();
  return useMemo(() => {
    const clashes = (proposal?.clashes ?? []).flatMap((clash, k): Frame[] => {
      const side = clash.ours ?? clash.theirs ?? clash.base;
      return side?.box ? [{ box: side.box, page: side.part.page, letter: String(k + 1), style: -1 }] : [];
    });
    const chosen = picked.flatMap(({ box, page: on }): Frame[] =>
      box ? [{ box: box as [number, number, number, number], page: on, letter: '', style: -1 }] : [],
    );
    const marked = areas.map((box): Frame => ({ box, page: page ?? '', letter: '', style: -1 }));
    return [...frames, ...chosen, ...marked, ...clashes].filter((frame) => page === undefined || frame.page === page);
  }, [frames, picked, areas, proposal, page]);
}

const laidOn = (result: View['result'], page: string | undefined): Laid =>
  result?.picture.laid ?? result?.picture.laidOn?.[page ?? ''];

/** The page in view: the one asked for, at first one on which something changed. */
function usePages({ comparing, detail, result, page: wanted, chosen }: View): {
  pages: PageShown;
  setPage: (name: string) => void;
} {
  const [asked, setPage] = useState<string>();
  const touched = useMemo(() => (comparing && result ? firstTouched(result) : undefined), [comparing, result]);
  useEffect(() => {
    if (wanted) setPage(wanted.name);
  }, [wanted]);
  useEffect(() => {
    if (chosen?.part.page) setPage(chosen.part.page);
  }, [chosen]);
  return { pages: pageShown(detail, result, comparing, asked ?? touched), setPage };
}

/** The room that the canvas has, in CSS pixels. */
function useSize(frame: React.RefObject<HTMLDivElement | null>): Size | undefined {
  const [size, setSize] = useState<Size>();
  useEffect(() => {
    const el = frame.current;
    if (!el) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: el.clientWidth, height: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, [frame]);
  return size;
}

/** The view that shows the whole page. */
function useWhole(
  box: Sheet['box'] | undefined,
  width: number | undefined,
  height: number | undefined,
): Camera | undefined {
  const [x0, y0 = 0, x1 = 0, y1 = 0] = box ?? [];
  return useMemo(
    () => (x0 !== undefined && width && height !== undefined ? fit([x0, y0, x1, y1], width, height) : undefined),
    [x0, y0, x1, y1, width, height],
  );
}

/** Changes with the boxes of A where A is laid over B. */
const laidOver = (changes: readonly Change[], matrix: readonly number[] | undefined): readonly Change[] =>
  matrix === undefined
    ? changes
    : changes.map((change) => {
        if (!change.boxA) return change;
        const [left, top, right, bottom] = change.boxA;
        const [x0, y0, x1, y1] = throughBox(matrix, right, bottom, left, top);
        return { ...change, boxA: [x0, y0, x1, y1] };
      });
