'use client';

import { TitleBlockChanges } from '../TitleBlocks.tsx';
import { useCompared } from '../state/compared.tsx';

export function TitleBlockPanel(): React.ReactNode {
  const blocks = useCompared().result?.comparison.titleBlocks;
  return blocks ? <TitleBlockChanges blocks={blocks} /> : null;
}
