'use client';

import { PickedBar } from '../PickedBar.tsx';
import { useProposing } from '../useProposing.ts';
import { usePicked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';

/** Parts of an older version that were pointed at, to be had again in the newest. */
export function PickedParts(): React.ReactNode {
  const { b, newest } = useShown();
  const { canPick, parts } = usePicked();
  const { propose, busy } = useProposing();
  if (!canPick || b.id === newest.id) return null;
  if (parts.length === 0)
    return <p className="ov-quiet">Click a part on the drawing to carry it over into v{newest.number}.</p>;
  const carry = {
    says: `Carry over into v${newest.number}`,
    title: `As in v${b.number}, with all that it needs. You see it before anything lands.`,
    run: () => propose({ kind: 'carry over', from: b.id, parts: parts.map((p) => p.index), layers: [] }),
  };
  const layers = [...new Set(parts.map((p) => p.category))].filter(Boolean);
  const [layer] = layers;
  const whole = {
    says: `Carry over all of “${layer ?? ''}”`,
    title: `Every part of it as in v${b.number}. What came later stays.`,
    run: () => propose({ kind: 'carry over', from: b.id, parts: [], layers }),
  };
  return (
    <PickedBar
      says={parts.length === 1 ? '1 part picked' : `${parts.length} parts picked`}
      acts={layers.length === 1 ? [carry, whole] : [carry]}
      busy={busy}
    >
      <ul>
        {parts.map((part) => (
          <li key={part.index}>{part.name === part.kind ? part.kind : `${part.kind} ${part.name}`}</li>
        ))}
      </ul>
    </PickedBar>
  );
}
