/** What is drawn of A and of B, and which layers of it. */
import { useEffect, useMemo, useState } from 'react';
import type { Change } from '@ovrel/core/contract';
import type { SceneHead } from '@ovrel/core/scene';
import type { Camera } from '../camera.ts';
import { layerRows, type LayerLine } from '../layer-rows.ts';
import { layerList, type LayerEntry } from '../Layers.tsx';
import type { Sheet } from '../paint/paint.ts';
import type { View } from '../state.ts';
import { useDetail } from '../useDetail.ts';
import { useSheet } from '../useSheet.ts';
import { pageBoxes, type PageShown } from './pages.ts';

export type Size = { readonly width: number; readonly height: number };

const none: readonly Change[] = [];
const noRows: readonly LayerLine[] = [];
const noSwitches: ReadonlyMap<string, boolean> = new Map();

export interface LayerChoice {
  /** Layers of a layered picture, and the one that is shown alone. */
  readonly rows: readonly LayerLine[];
  readonly alone: LayerLine | undefined;
  readonly setAlone: (row: LayerLine | undefined) => void;
}

export interface LayerSwitches {
  /** Layers of a drawing, and those that a person switched: off where true. */
  readonly layers: readonly LayerEntry[];
  readonly switched: ReadonlyMap<string, boolean>;
  readonly setSwitched: (next: ReadonlyMap<string, boolean>) => void;
}

export function useLayerRows({ comparing, detail, result }: View): LayerChoice {
  const both = comparing ? result?.picture.layers : undefined;
  const own = comparing ? undefined : detail?.look.layers;
  const rows = useMemo(() => {
    if (both) return layerRows(both, result?.comparison.changes ?? none);
    return own ? layerRows({ a: [], b: own, pairs: [] }, none) : noRows;
  }, [both, own, result]);
  const [asked, setAlone] = useState<LayerLine>();
  const alone = asked && rows.find((row) => row.a === asked.a && row.b === asked.b);
  return { rows, alone, setAlone };
}

interface SheetView {
  readonly pixels: boolean;
  /** From pixels of A to B's page, where A is laid over B. */
  readonly overlaid: readonly number[] | undefined;
  readonly rest: Camera | undefined;
  readonly size: Size | undefined;
}

export interface Sheets {
  readonly sheetA: Sheet | undefined;
  readonly sheetB: Sheet | undefined;
  /** Why B is not shown. */
  readonly broken: string | undefined;
  readonly head: SceneHead | undefined;
  readonly headA: SceneHead | undefined;
}

export function useSheets(
  { a, b, comparing, detail, result }: View,
  pages: PageShown,
  alone: LayerLine | undefined,
  { pixels, overlaid, rest, size }: SheetView,
): Sheets {
  const { atA, atB } = pages;
  const boxes = pageBoxes(detail, result, comparing, pages);
  const drawn = comparing ? result?.picture.drawn : undefined;
  const wantsA = comparing && !(alone && alone.a === undefined);
  const wantsB = !(alone && alone.b === undefined);
  const ofB = useSheet(wantsB ? b : undefined, pixels ? undefined : boxes.b, atB, undefined, {
    layer: alone?.b,
    drawn: drawn?.b,
  });
  const ofA = useSheet(wantsA ? a : undefined, pixels ? undefined : boxes.a, atA, overlaid, {
    layer: alone?.a,
    drawn: drawn?.a,
  });
  const sheetB = useDetail(b, drawn ? undefined : atB, ofB.sheet, rest, size);
  const sheetA = useDetail(comparing ? a : undefined, drawn ? undefined : atA, ofA.sheet, rest, size);
  return { sheetA, sheetB, broken: ofB.broken, head: ofB.head, headA: ofA.head };
}

export function useSwitchedLayers({ sheetA, sheetB, head, headA }: Sheets): LayerSwitches {
  const layers = useMemo(() => layerList([head, headA]), [head, headA]);
  const [switched, setSwitched] = useState(noSwitches);
  useEffect(() => {
    const hide = (sheet: Sheet | undefined, of: SceneHead | undefined): void => {
      const off = of?.layers.flatMap((layer, i) => (switched.get(layer.name) === true ? [i] : []));
      sheet?.renderer?.hide(new Set(off));
    };
    hide(sheetB, head);
    hide(sheetA, headA);
  }, [sheetA, sheetB, head, headA, switched]);
  return { layers, switched, setSwitched };
}
