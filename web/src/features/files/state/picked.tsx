'use client';

/** What is picked to be taken back or carried over: changes of a comparison, or parts of the version shown alone. */
import { useCallback, useMemo, useState } from 'react';
import type { Change } from '@ovrel/core/contract';
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
  readonly clear: () => void;
}

const [Provider, usePicked] = contextOf<Picked>('Picked');
export { usePicked };

const nothing: ReadonlySet<string> = new Set();
const noParts: readonly PickedPart[] = [];

export function PickedProvider({ children }: { readonly children: React.ReactNode }): React.ReactNode {
  const { a, b, newest, comparing, proposal } = useShown();
  const { result, detail } = useCompared();
  const { mayCheckIn } = useFileActs();
  const [ids, setIds] = usePairState<ReadonlySet<string>>(`${a.id} ${b.id}`, nothing);
  const [parts, setParts] = usePairState<readonly PickedPart[]>(`${a.id} ${b.id}`, noParts);
  const [asking, setAsking] = useState(0);
  const level = comparing ? result?.comparison.level : detail?.look.level;
  const writes = cardOfVersion(newest)?.writes !== undefined;
  const canPick = mayCheckIn && !proposal && writes && (level === 'parts' || level === 'text');
  const pick = useCallback(
    (chosen: readonly string[], on: boolean): void =>
      setIds((before) => {
        const next = new Set(before);
        for (const id of chosen)
          if (on) next.add(id);
          else next.delete(id);
        return next;
      }),
    [setIds],
  );
  const pickAt = async (page: string, x: number, y: number, reach: number): Promise<void> => {
    if (comparing || asking > 0) return;
    setAsking((n) => n + 1);
    try {
      const { part } = await call(api.versions.part, { versionId: b.id, query: { page, x, y, reach } });
      if (part)
        setParts((before) =>
          before.some((p) => p.index === part.index) ? before.filter((p) => p.index !== part.index) : [...before, part],
        );
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
  }, [setIds, setParts]);
  return <Provider value={{ canPick, ids, changes, pick, parts, pickAt, clear }}>{children}</Provider>;
}
