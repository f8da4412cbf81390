'use client';

/** Who holds a file, what can be done about it, and who else looks at it; part of About. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Here } from '../../contract/access.ts';
import type { FileEntry, Person } from '../../contract/api.ts';
import type { References, Standing } from '../../contract/desk.ts';
import { sayLimits } from '../access/limits.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { Ago } from '../frame/Ago.tsx';
import { sayMoment } from '../words.ts';
import { CheckOutDialog } from './CheckOutDialog.tsx';
import { ReasonDialog, type ReasonQuestion } from './ReasonDialog.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

export interface Rights {
  readonly here: Here;
  readonly me: Pick<Person, 'id' | 'name'>;
  readonly mayCheckOut: boolean;
  readonly mayTakeOver: boolean;
  readonly mayOrganise: boolean;
}

/** Of the main line, where no other is said. */
export const useStanding = (
  fileId: string,
  line?: string,
): { standing: Standing | undefined; refresh: () => Promise<unknown> } => {
  const { data, mutate } = useAnswer(api.checkouts.standing, { fileId, query: line === undefined ? {} : { line } });
  return { standing: data, refresh: mutate };
};

export function Holder({
  file,
  line,
  standing,
  references,
  rights,
  refresh,
}: {
  file: FileEntry;
  /** A line beside the main one. */
  line: { readonly id: string; readonly name: string } | undefined;
  standing: Standing | undefined;
  references: References | undefined;
  rights: Rights;
  refresh: () => Promise<unknown>;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [question, setQuestion] = useState<ReasonQuestion>();
  const [choosing, setChoosing] = useState(false);
  const { me, here, mayCheckOut, mayTakeOver } = rights;
  const ofLine = line ? { line: line.id } : {};
  // What a file needs is checked out with its main line.
  const alone = line !== undefined || (references?.needs.length === 0 && references.neededBy.length === 0);
  const called = line ? `“${line.name}” of ${file.name}` : file.name;
  const act = (work: () => Promise<unknown>) => (): void => {
    setProblem(undefined);
    void work()
      .catch((error: unknown) => setProblem(sentenceOf(error)))
      .then(() => refresh());
  };
  if (!standing) return null;
  const { checkout, takenOver, present } = standing;
  const mine = checkout?.by.id === me.id;
  const others = present.filter((p) => p.id !== me.id);
  const ask = (): void =>
    setQuestion({
      title: `Ask ${checkout?.by.name ?? ''} for ${called}`,
      text: 'The holder sees your request and the reason at once, here and on the desk page.',
      act: 'Ask for it',
      save: async (reason) => {
        await call(api.checkouts.ask, { fileId: file.id, body: { reason, ...ofLine } });
        await refresh();
      },
    });
  const take = (): void =>
    setQuestion({
      title: `Take ${called} over from ${checkout?.by.name ?? ''}`,
      act: 'Take it over',
      text: `You will hold the file. What ${checkout?.by.name ?? ''} has changed meanwhile is not lost: it can be checked in as a branch. The ledger keeps your reason.`,
      save: async (reason) => {
        await call(api.checkouts.takeOver, { fileId: file.id, body: { reason, ...ofLine } });
        await refresh();
      },
    });
  return (
    <section className="ov-holder" aria-label="Check-out">
      <h2>Check-out</h2>
      {problem && <Said problem>{problem}</Said>}
      {!checkout && <p>Nobody has {line ? `“${line.name}”` : 'this file'} checked out.</p>}
      {checkout && (
        <p>
          <i className="bi bi-lock" aria-hidden="true" />{' '}
          {mine ? (
            'You have it'
          ) : (
            <>
              <strong>{checkout.by.name}</strong> has it
            </>
          )}{' '}
          checked out{line ? `, on “${line.name}”` : ''}
          {checkout.desk ? ` on ${checkout.desk}` : ''} since {sayMoment(checkout.at)}
          {checkout.source === null ? '' : `, going on from v${checkout.source}`}{' '}
          <span className="ov-quiet">
            <Ago at={checkout.at} />
          </span>
        </p>
      )}
      {takenOver && (
        <div className="ov-older">
          {takenOver.by.name} took your check-out over: “{takenOver.reason}”. Check your work in; Ovrel will make it a
          branch from v{takenOver.number}, so that nothing is lost.
        </div>
      )}
      {checkout?.requests.map((r) => (
        <div key={r.by.id} className="ov-older" role="note">
          {r.by.id === me.id ? (
            'You asked'
          ) : (
            <>
              <strong>{r.by.name}</strong> asks
            </>
          )}{' '}
          for it, {sayMoment(r.at)}: “{r.reason}”
        </div>
      ))}
      <div className="ov-acts">
        {!checkout && mayCheckOut && !file.deletedIn && (
          <Button
            variant="outline-secondary"
            disabled={!references}
            onClick={
              alone
                ? act(() => call(api.checkouts.take, { body: { files: [file.id], ...ofLine } }))
                : () => setChoosing(true)
            }
          >
            Check out{alone ? '' : ' …'}
          </Button>
        )}
        {mine && (
          <Button
            variant="outline-secondary"
            onClick={act(() => call(api.checkouts.giveUp, { body: { files: [file.id], ...ofLine } }))}
          >
            Give it up without a new version
          </Button>
        )}
        {checkout && !mine && mayCheckOut && (
          <Button variant="outline-secondary" onClick={ask}>
            Ask for it
          </Button>
        )}
        {checkout && !mine && mayTakeOver && (
          <Button variant="outline-secondary" onClick={take}>
            Take it over
          </Button>
        )}
      </div>
      {!mayCheckOut && <p className="ov-quiet">{sayLimits(here, 'You can look at this file, but not change it')}</p>}
      {others.length > 0 && <p className="ov-quiet">Also looking at it now: {others.map((p) => p.name).join(', ')}</p>}
      {choosing && references && (
        <CheckOutDialog
          file={file}
          references={references}
          onClose={() => {
            setChoosing(false);
            void refresh();
          }}
        />
      )}
      {question && <ReasonDialog question={question} onClose={() => setQuestion(undefined)} />}
    </section>
  );
}
