'use client';

import { Said } from '../../frame/Said.tsx';
import { useCompared } from '../state/compared.tsx';
import { useShown } from '../state/shown.tsx';
import { useFirstLook } from '../useFirstLook.ts';

/** Sentences of a first look that are listed. */
const FEW = 8;

/** What can be said until the comparison is there, or why there will be none. */
export function Underway(): React.ReactNode {
  const { a, b } = useShown();
  const { result, problem } = useCompared();
  const waiting = !result && problem === undefined;
  const look = useFirstLook(a, b, waiting);
  if (problem !== undefined) return <Said problem>{problem}</Said>;
  if (!waiting) return null;
  return (
    <>
      <p role="status">
        Comparing v{a.number} with v{b.number} …
      </p>
      {look && (
        <div className="ov-note" data-testid="first-look">
          <p className="mb-1">
            {look.sentences.length ? 'At a first look' : 'At a first look nothing differs'}, at{' '}
            {Math.round(look.factor * 100)} % of the size:
            {look.sentences.length ? '' : ' small places may still be found.'}
          </p>
          {look.sentences.length > 0 && (
            <ul aria-label="At a first look">
              {look.sentences.slice(0, FEW).map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
          )}
        </div>
      )}
    </>
  );
}
