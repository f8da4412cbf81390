'use client';

import Button from 'react-bootstrap/Button';
import { usePicked } from './state/picked.tsx';

/** Something that can be done with what is picked. */
export interface Act {
  readonly says: string;
  readonly title: string;
  readonly run: () => void;
}

interface Props {
  readonly says: string;
  /** The first is the one that is most likely wanted. */
  readonly acts: readonly Act[];
  readonly busy: boolean;
  readonly children?: React.ReactNode;
}

/** What is picked, and what can be done with it; it stays in sight. */
export function PickedBar({ says, acts, busy, children }: Props): React.ReactNode {
  const { clear } = usePicked();
  return (
    <div className="ov-picked" role="region" aria-label="What is picked">
      <p>
        <strong>{says}</strong>{' '}
        <Button variant="link" className="p-0 align-baseline" onClick={clear}>
          Let go
        </Button>
      </p>
      {children}
      {acts.map(({ says: act, title, run }, k) => (
        <Button
          key={act}
          size="sm"
          variant={k === 0 ? 'primary' : 'outline-secondary'}
          title={title}
          disabled={busy}
          onClick={run}
        >
          {act}
        </Button>
      ))}
    </div>
  );
}
