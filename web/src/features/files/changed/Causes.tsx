'use client';

import { levelCards } from '@ovrel/core/contract';
import { CauseList } from '../CauseList.tsx';
import { useCompared } from '../state/compared.tsx';
import { usePicked } from '../state/picked.tsx';
import { ChangesFound } from './ChangesFound.tsx';

export function Causes(): React.ReactNode {
  const { result, causes, filter, setFilter } = useCompared();
  const { canPick, ids, pick } = usePicked();
  const level = result?.comparison.level;
  if (level === undefined || !levelCards[level].hasCauses || !causes.length) return null;
  return (
    <CauseList
      causes={causes}
      open={filter.cause}
      onOpen={(cause) => setFilter((before) => ({ ...before, cause }))}
      picked={canPick ? ids : undefined}
      onPick={pick}
    >
      <ChangesFound />
    </CauseList>
  );
}
