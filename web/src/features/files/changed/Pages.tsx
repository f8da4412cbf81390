'use client';

import { PageList, usePages } from '../PageList.tsx';
import { useCompared } from '../state/compared.tsx';
import { useShown } from '../state/shown.tsx';

export function Pages(): React.ReactNode {
  const { a, b } = useShown();
  const { result, problem, changes, goToPage } = useCompared();
  const pages = usePages(a, b, result);
  if (!pages || problem !== undefined) return null;
  return <PageList of={pages} changes={result && changes} onPage={goToPage} />;
}
