'use client';

import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Choice } from '@ovrel/core/contract';
import { api } from '../../../contract/operations/index.ts';
import { linkTo } from '../../../contract/operation.ts';
import type { Proposal } from '../../../contract/proposals.ts';
import { call, Refused, sentenceOf } from '../../api/client.ts';
import { upload } from '../../api/upload.ts';
import { Said } from '../../frame/Said.tsx';
import { NoteField } from '../NoteField.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';
import { Clashes } from './Clashes.tsx';

/** What is about to be done, before it is: what it is, what is to be decided, and the two ways on. */
export function Proposed(): React.ReactNode {
  const { proposal } = useShown();
  return proposal ? <Open proposal={proposal} /> : null;
}

function Open({ proposal }: { readonly proposal: Proposal }): React.ReactNode {
  const { move } = useShown();
  const { land } = useFileActs();
  const [note, setNote] = useState('');
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const { id, onto, clashes, inseparable, changed } = proposal;
  const open = clashes.filter((clash) => !clash.decided).length;
  const run = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      await work();
    } catch (error) {
      setProblem(sentenceOf(error));
      // It was made anew on top of what landed meanwhile.
      const anew = error instanceof Refused ? error.extra['proposal'] : undefined;
      if (typeof anew === 'string') move({ proposal: anew });
    }
    setBusy(false);
  };
  const decide = (key: string, choice: Choice): Promise<void> =>
    run(async () => {
      const made = await call(api.proposals.decide, { proposalId: id, body: { decisions: { [key]: choice } } });
      move({ proposal: made.id });
    });
  const checkIn = (): Promise<void> =>
    run(async () => {
      const made = await call(api.proposals.land, { proposalId: id, body: { note } });
      await land(`Checked in as v${made.number}. Nothing was removed.`, made);
    });
  const byHand = (chosen: File): Promise<void> =>
    run(async () => {
      const sent = upload(api.proposals.byHand, { proposalId: id, fields: {}, files: chosen }, () => undefined);
      move({ proposal: (await sent.done).id });
    });
  const letGo = (): Promise<void> =>
    run(async () => {
      await call(api.proposals.discard, { proposalId: id });
      move({ a: onto.id, b: onto.id });
    });
  return (
    <div className="ov-proposed">
      <h1>{titleOf(proposal)}</h1>
      <p>
        Not done yet. On the page: <span className="ov-mono">A v{onto.number}</span> as it is,{' '}
        <span className="ov-mono">B v{onto.number + 1}</span> as it would be.
      </p>
      {problem && <Said problem>{problem}</Said>}
      {proposal.outdated && !problem && (
        <div className="ov-older">
          A newer version was checked in meanwhile. Checking in makes this anew on top of it.
        </div>
      )}
      {!changed && clashes.length === 0 && (
        <div className="ov-older">v{onto.number} has all of this already: nothing would change.</div>
      )}
      {inseparable.length > 0 && (
        <div className="ov-older">
          Not done, because it belongs to more than was picked: {inseparable.slice(0, FEW).join(', ')}
          {inseparable.length > FEW ? ` and ${inseparable.length - FEW} more` : ''}. Pick the whole cause to take it
          back.
        </div>
      )}
      <Clashes clashes={clashes} busy={busy} onDecide={(key, choice) => void decide(key, choice)} />
      <ByHand proposal={proposal} busy={busy} onFile={(chosen) => void byHand(chosen)} />
      <NoteField id="proposal-note" note={note} proposal={proposal.proposedNote} busy={busy} onNote={setNote} />
      <div className="d-flex flex-wrap gap-2 my-2">
        <Button disabled={busy || open > 0 || !changed} onClick={() => void checkIn()}>
          Check in as v{onto.number + 1}
        </Button>
        <Button variant="outline-secondary" disabled={busy} onClick={() => void letGo()}>
          Let it go
        </Button>
      </div>
      {open > 0 && (
        <p className="ov-quiet">{open === 1 ? 'One clash is' : `${open} clashes are`} to be decided first.</p>
      )}
    </div>
  );
}

const FEW = 5;

function titleOf({ asked, source, fileId }: Proposal): string {
  const from = source.fileId === fileId ? `v${source.number}` : `${source.file} v${source.number}`;
  if (asked.kind === 'take back') {
    const n = asked.changes.length;
    return n === 1 ? 'Take back one change' : `Take back ${n} changes`;
  }
  if (asked.kind === 'carry over') return `Carry over from ${from}`;
  return source.fileId === fileId ? `Join “${source.line}”` : `Join ${from}`;
}

interface ByHandProps {
  readonly proposal: Proposal;
  readonly busy: boolean;
  readonly onFile: (chosen: File) => void;
}

/** The third way to decide: in one's own program. */
function ByHand({ proposal: { version, clashes, byHand }, busy, onFile }: ByHandProps): React.ReactNode {
  const chooser = useRef<HTMLInputElement>(null);
  if (clashes.length === 0) return null;
  return (
    <div className="my-2">
      <p className="ov-quiet mb-1">
        {byHand
          ? 'As you changed it by hand. Deciding a clash here makes it anew.'
          : 'Or by hand: take the file as it would be, change it in your program, and put it back.'}
      </p>
      <a
        className="btn btn-sm btn-outline-secondary me-2"
        href={linkTo(api.versions.content, { versionId: version.id })}
        download
      >
        Take the file
      </a>
      <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => chooser.current?.click()}>
        Put it back …
      </Button>
      <input
        ref={chooser}
        type="file"
        hidden
        aria-label="The file as you changed it"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          if (chosen) onFile(chosen);
          e.target.value = '';
        }}
      />
    </div>
  );
}
