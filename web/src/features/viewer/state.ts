'use client';

/** What the viewer shows, from the state of the file page. */
import { levelCards } from '@ovrel/core/contract';
import type { ComparedHere } from '../files/state/compared.tsx';
import { useCompared } from '../files/state/compared.tsx';
import type { Shown } from '../files/state/shown.tsx';
import { useShown } from '../files/state/shown.tsx';
import { isPicture } from '../cards.ts';

export interface View extends Shown, ComparedHere {
  /** B is there to be looked at while it is still being compared: it is shown alone meanwhile. */
  readonly waiting: boolean;
  /** The comparison cannot be made; why is said beside the viewer. */
  readonly failed: boolean;
}

export function useView(): View {
  const shown = useShown();
  const compared = useCompared();
  const { comparing, b } = shown;
  const { detail, result, problem } = compared;
  const failed = comparing && problem !== undefined;
  const seen = detail !== undefined && (levelCards[detail.look.level].seenAlone || isPicture(b));
  return { ...shown, ...compared, failed, waiting: comparing && !result && !failed && seen };
}
