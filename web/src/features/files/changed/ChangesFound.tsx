'use client';

import { ChangeList } from '../ChangeList.tsx';
import { useCompared } from '../state/compared.tsx';
import { usePicked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';

/** The changes that pass the filter. Who made them is said where more than one version lies between. */
export function ChangesFound(): React.ReactNode {
  const { a, b } = useShown();
  const { result, listed, who, selected, select } = useCompared();
  const { canPick, ids, pick } = usePicked();
  const apart = b.parentId !== a.id;
  return (
    <ChangeList
      changes={listed}
      {...(apart ? { who } : {})}
      lines={result?.comparison.level === 'text'}
      selected={selected}
      onSelect={select}
      picked={canPick ? ids : undefined}
      onPick={pick}
    />
  );
}
