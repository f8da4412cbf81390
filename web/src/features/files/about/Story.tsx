'use client';

import { sayAgo, sayMoment } from '../../words.ts';
import { useShown } from '../state/shown.tsx';

/** Why, by whom and when a version was made, and what changed with it. */
export function Story(): React.ReactNode {
  const { b } = useShown();
  const first = b.parentId === null;
  const summary = b.summary ?? 'Being compared with the version before …';
  return (
    <>
      <h2>Why</h2>
      <p className="ov-note">{b.note || <span className="ov-quiet">No note was written.</span>}</p>
      <h2>Who and when</h2>
      <p>{b.by.name}</p>
      <p title="Coordinated Universal Time">
        {sayMoment(b.at)}{' '}
        <span className="ov-quiet" suppressHydrationWarning>
          {sayAgo(b.at)}
        </span>
      </p>
      <h2>What changed</h2>
      <p>{first ? 'The first version: nothing to compare with.' : summary}</p>
    </>
  );
}
