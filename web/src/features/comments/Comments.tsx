'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useRemarks } from '../files/state/remarks.tsx';
import { useShown } from '../files/state/shown.tsx';
import { Entry } from './Entry.tsx';
import { NewComment } from './NewComment.tsx';

export function Comments(): React.ReactNode {
  const { b: version } = useShown();
  const { here, target, setTarget, canPoint, pointing, togglePointing, opened, openOne } = useRemarks();
  const [all, setAll] = useState(false);
  const open = here.comments.filter((c) => !c.resolved);
  const shown = all ? here.comments : open;
  const resolved = here.comments.length - open.length;
  const numbers = new Map(here.comments.map((c, i) => [c.id, i + 1]));
  return (
    <section aria-label="Comments" className="ov-comments">
      <h2>Comments{open.length > 0 && <span className="ov-mono"> {open.length}</span>}</h2>
      {!here.comments.length && <p className="ov-quiet">Nobody has said anything yet.</p>}
      <ol>
        {shown.map((c) => (
          <Entry
            key={c.id}
            comment={c}
            number={numbers.get(c.id) ?? 0}
            version={version}
            here={here}
            selected={c.id === opened}
            onSelect={() => openOne(c.id === opened ? undefined : c.id)}
          />
        ))}
      </ol>
      {target ? (
        <NewComment
          key={JSON.stringify(target)}
          version={version}
          target={target}
          here={here}
          onDone={(id) => {
            setTarget(undefined);
            openOne(id);
          }}
        />
      ) : (
        <div className="d-flex flex-wrap gap-2">
          <Button size="sm" variant="outline-secondary" onClick={() => setTarget({ kind: 'version' })}>
            Comment on v{version.number}
          </Button>
          {canPoint && (
            <Button
              size="sm"
              variant="outline-secondary"
              active={pointing}
              aria-pressed={pointing}
              onClick={togglePointing}
              title="Key m"
            >
              {pointing ? 'Click on the place …' : 'Comment on a place …'}
            </Button>
          )}
          {resolved > 0 && (
            <Button size="sm" variant="link" className="p-0" onClick={() => setAll((x) => !x)}>
              {all ? 'Hide the resolved' : `Show ${resolved} resolved`}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
