'use client';

import Button from 'react-bootstrap/Button';
import { LineDialog } from '../LineDialog.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';
import { useProposing } from '../useProposing.ts';

/** Of a line beside the main one: where it comes from, and how it comes back. */
export function Lines(): React.ReactNode {
  const { columns } = useShown();
  const { mayCheckIn, open } = useFileActs();
  const { propose, busy } = useProposing();
  const line = columns.lines.find((l) => l.id === columns.line);
  const main = columns.lines.find((l) => l.position === 0);
  // Of the line itself: right after one came to it, the versions that are shown may still be those of the line before.
  const newest = columns.ids.at(-1);
  if (!line || !main || line.position === 0 || newest === undefined) return null;
  return (
    <>
      <h2>Line</h2>
      <p>
        {line.name}
        {line.from ? `, from v${line.from.number}` : ''}
        {line.closed ? '; closed' : ''}
      </p>
      {mayCheckIn && (
        <div className="ov-acts">
          <Button disabled={busy} onClick={() => propose({ kind: 'join', from: newest }, main.id)}>
            Join “{line.name}” into the main line
          </Button>
          <Button variant="outline-secondary" onClick={() => open(<LineDialog line={line} />)}>
            Rename or close the line …
          </Button>
        </div>
      )}
    </>
  );
}
