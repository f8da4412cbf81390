'use client';

import type { Change } from '@ovrel/core/contract';
import type { Asking } from '../../../contract/proposals.ts';
import { PickedBar } from '../PickedBar.tsx';
import { useProposing } from '../useProposing.ts';
import { useCompared } from '../state/compared.tsx';
import { usePicked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';

/** What can be done with the changes that are picked. */
export function PickedChanges(): React.ReactNode {
  const { file, a, b, newest, other } = useShown();
  const { changes } = usePicked();
  const { propose, busy } = useProposing();
  const { result } = useCompared();
  const level = result?.comparison.level;
  if (changes.length === 0) return null;
  const wanted = piecesOf(changes, level === 'pixels');
  const isOwn = a.fileId === file.id;
  const from = other && !isOwn ? `${other.name} v${a.number}` : `v${a.number}`;
  const takeBack = {
    says: `Take back in v${newest.number}`,
    title: `v${newest.number} without these changes; later work stays. You see it before anything lands.`,
    run: () => propose({ kind: 'take back', a: a.id, b: b.id, changes: changes.map((change) => change.id) }),
  };
  const carry = {
    says: `Carry over from ${from}`,
    title: `These parts as they are in ${from}, put into v${newest.number}. You see it before anything lands.`,
    run: () => propose({ kind: 'carry over', from: a.id, ...wanted }),
  };
  const acts = [...(isOwn ? [takeBack] : []), ...(wanted ? [carry] : [])];
  return (
    <PickedBar
      says={changes.length === 1 ? '1 change picked' : `${changes.length} changes picked`}
      acts={acts}
      busy={busy}
    />
  );
}

type Pieces = Pick<Extract<Asking, { kind: 'carry over' }>, 'parts' | 'layers' | 'boxes'>;

/** What A has of it; undefined where that is nothing. */
function piecesOf(changes: readonly Change[], isPicture: boolean): Pieces | undefined {
  if (!isPicture) {
    const parts = changes.flatMap((change) => change.partA?.index ?? []);
    return parts.length > 0 ? { parts } : undefined;
  }
  // As A calls them; what A has not cannot come from it.
  const layers = [...new Set(changes.flatMap(({ partA }) => partA?.category || []))];
  if (layers.length > 0) return { layers };
  const boxes = changes.flatMap((change) => (change.boxA ? [change.boxA] : []));
  return boxes.length > 0 ? { boxes } : undefined;
}
