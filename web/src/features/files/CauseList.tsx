'use client';

import type { Cause } from '@ovrel/core/contract';
import { Pick } from './Pick.tsx';

interface Props {
  readonly causes: readonly Cause[];
  readonly open: string | undefined;
  readonly onOpen: (id: string | undefined) => void;
  /** Ids of changes that are picked; undefined where nothing can be. */
  readonly picked?: ReadonlySet<string> | undefined;
  readonly onPick: (changes: readonly string[], on: boolean) => void;
  /** The parts of the open cause. */
  readonly children: React.ReactNode;
}

/** Causes by weight; one at a time can be opened to its parts. */
export function CauseList({ causes, open, onOpen, picked, onPick, children }: Props): React.ReactNode {
  return (
    <ol className="ov-causes" aria-label="Causes">
      {causes.map((cause) => (
        <li key={cause.id} className={cause.id === open ? 'is-open' : undefined}>
          {picked && cause.changes.length > 0 && (
            <Pick
              says={cause.sentence}
              picked={cause.changes.filter((id) => picked.has(id)).length}
              of={cause.changes.length}
              onPick={(on) => onPick(cause.changes, on)}
            />
          )}
          <button
            type="button"
            aria-expanded={cause.id === open}
            disabled={!cause.changes.length}
            onClick={() => onOpen(cause.id === open ? undefined : cause.id)}
          >
            <span>{cause.sentence}</span>
            <span className="ov-mono ov-quiet" aria-label={`${cause.changes.length} of the changes`}>
              {cause.changes.length ? cause.changes.length.toLocaleString('en') : ''}
            </span>
          </button>
          {cause.id === open && children}
        </li>
      ))}
    </ol>
  );
}
