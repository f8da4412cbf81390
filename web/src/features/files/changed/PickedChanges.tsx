'use client';

import { PickedBar } from '../PickedBar.tsx';
import { useProposing } from '../useProposing.ts';
import { usePicked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';

/** What can be done with the changes that are picked. */
export function PickedChanges(): React.ReactNode {
  const { file, a, b, newest, other } = useShown();
  const { changes } = usePicked();
  const { propose, busy } = useProposing();
  if (changes.length === 0) return null;
  const inA = changes.flatMap((change) => change.partA?.index ?? []);
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
    run: () => propose({ kind: 'carry over', from: a.id, parts: inA, layers: [] }),
  };
  const acts = [...(isOwn ? [takeBack] : []), ...(inA.length > 0 ? [carry] : [])];
  return (
    <PickedBar
      says={changes.length === 1 ? '1 change picked' : `${changes.length} changes picked`}
      acts={acts}
      busy={busy}
    />
  );
}
