'use client';

/** What is picked to be taken back or carried over: changes of a comparison, or parts of the version shown alone. */
import { useCallback, useMemo, useState } from 'react';
import { levelCards, type Change } from '@ovrel/core/contract';
import { api } from '../../../contract/operations/index.ts';
import type { Answer } from '../../../contract/operation.ts';
import { call } from '../../api/client.ts';
import { cardOfVersion } from '../../cards.ts';
import { contextOf } from '../../frame/context.tsx';
import { useCompared } from './compared.tsx';
import { usePairState } from './usePairState.ts';
import { useShown } from './shown.tsx';
import { useFileActs } from './acts.tsx';

export type PickedPart = NonNullable<Answer<typeof api.versions.part>['part']>;

export interface Picked {
  /** Whether anything of what is shown can be picked. */
  readonly canPick: boolean;
  /** Changes by their ids. */
  readonly ids: ReadonlySet<string>;
  readonly changes: readonly Change[];
  readonly pick: (ids: readonly string[], on: boolean) => void;
  /** Parts of the version that is shown alone. */
  readonly parts: readonly PickedPart[];
  /** Picks what is drawn at a point, or lets it go. */
  readonly pickAt: (page: string, x: number, y: number, reach: number) => Promise<void>;
  /** Picks a part, or lets it go. */
  readonly pickPart: (part: PickedPart) => void;
  /** What of the version that is shown alone can be picked. */
  readonly picks: 'parts' | 'pages' | 'layers' | 'areas';
  /** Layers of a picture by their names. */
  readonly layers: ReadonlySet<string>;
  readonly pickLayer: (name: string, on: boolean) => void;
  /** Rectangles of a picture, in pixels. */
  readonly areas: readonly Area[];
  readonly addArea: (area: Area) => void;
  readonly clear: () => void;
}

export type Area = readonly [left: number, top: number, right: number, bottom: number];

const [Provider, usePicked] = contextOf<Picked>('Picked');
export { usePicked };

const nothing: ReadonlySet<string> = new Set();
const noParts: readonly PickedPart[] = [];
const noAreas: readonly Area[] = [];

export function PickedProvider({ children }: { readonly children: React.ReactNode }): React.ReactNode {
  const { a, b, newest, comparing, proposal } = useShown();
  const { result, detail } = useCompared();
  const { mayCheckIn } = useFileActs();
  const [ids, setIds] = usePairState<ReadonlySet<string>>(`${a.id} ${b.id}`, nothing);
  const [parts, setParts] = usePairState<readonly PickedPart[]>(`${a.id} ${b.id}`, noParts);
  const [asking, setAsking] = useState(0);
  const level = comparing ? result?.comparison.level : detail?.look.level;
  const writes = cardOfVersion(newest)?.writes !== undefined;
  const canPick = mayCheckIn && !proposal && writes && level !== undefined && levelCards[level].hasPieces;
  const [layers, setLayers] = usePairState<ReadonlySet<string>>(`${a.id} ${b.id}`, nothing);
  const [areas, setAreas] = usePairState<readonly Area[]>(`${a.id} ${b.id}`, noAreas);
  const pick = useCallback(
    (chosen: readonly string[], on: boolean): void => setIds((before) => switched(before, chosen, on)),
    [setIds],
  );
  const pickLayer = useCallback(
    (name: string, on: boolean): void => setLayers((before) => switched(before, [name], on)),
    [setLayers],
  );
  const addArea = useCallback((area: Area): void => setAreas((before) => [...before, area]), [setAreas]);
  const picks: Picked['picks'] = cardOfVersion(b)?.pieces ?? 'parts';
  const pickPart = useCallback(
    (part: PickedPart): void =>
      setParts((before) =>
        before.some((p) => p.index === part.index) ? before.filter((p) => p.index !== part.index) : [...before, part],
      ),
    [setParts],
  );
  const pickAt = async (page: string, x: number, y: number, reach: number): Promise<void> => {
    if (comparing || asking > 0 || picks === 'layers' || picks === 'areas') return;
    setAsking((n) => n + 1);
    try {
      const { part } = await call(api.versions.part, { versionId: b.id, query: { page, x, y, reach } });
      if (part) pickPart(part);
    } finally {
      setAsking((n) => n - 1);
    }
  };
  const changes = useMemo(
    () => (result?.comparison.changes ?? []).filter((change) => ids.has(change.id)),
    [result, ids],
  );
  const clear = useCallback((): void => {
    setIds(nothing);
    setParts(noParts);
    setLayers(nothing);
    setAreas(noAreas);
  }, [setIds, setParts, setLayers, setAreas]);
  const value = {
    canPick,
    ids,
    changes,
    pick,
    parts,
    pickAt,
    pickPart,
    picks,
    layers,
    pickLayer,
    areas,
    addArea,
    clear,
  };
  return <Provider value={value}>{children}</Provider>;
}

function switched(before: ReadonlySet<string>, names: readonly string[], on: boolean): ReadonlySet<string> {
  const next = new Set(before);
  for (const name of names)
    if (on) next.add(name);
    else next.delete(name);
  return next;
}
