'use client';
/** What a sweep would remove now, the one that runs, and what the last one did. */
import { plural } from '@ovrel/core/plural';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { api } from '../../contract/operations/index.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { Progress } from '../frame/Progress.tsx';
import { Said } from '../frame/Said.tsx';
import { sayMoment, saySize } from '../words.ts';

/** While a sweep runs it is asked how it gets on, in milliseconds. */
const BUSY = 1000;

interface Props {
  readonly projectId: string;
  readonly maySweep: boolean;
  /** Called when a sweep has ended. */
  readonly onSwept: () => void;
}

export function Sweep({ projectId, maySweep, onSwept }: Props): React.ReactNode {
  const [isAsking, setIsAsking] = useState(false);
  const [problem, setProblem] = useState<string>();
  const { data, mutate } = useAnswer(
    api.keeping.sweep,
    { projectId },
    {
      refreshInterval: (now) => (now?.running ? BUSY : 0),
      onSuccess: (now) => {
        if (data?.running && !now.running) onSwept();
      },
    },
  );
  const act = async (operation: typeof api.keeping.startSweep | typeof api.keeping.cancelSweep): Promise<void> => {
    setProblem(undefined);
    try {
      await call(operation, { projectId });
    } catch (error) {
      setProblem(sentenceOf(error));
    }
    await mutate();
  };
  if (!data) return null;
  const { due, last, running } = data;
  const what = `${plural(due.total, 'version')}, about ${saySize(due.bytes)}`;
  return (
    <section aria-label="Sweep">
      <h2>Sweep</h2>
      {problem && <Said problem>{problem}</Said>}
      <p>
        Every night at 03:11 (UTC) a sweep removes what the rules let go.{' '}
        {due.total === 0 ? 'Nothing is due now.' : `A sweep now would remove ${what}.`}
        {last &&
          ` The last one that somebody asked for, on ${sayMoment(last.at)}, removed ${plural(last.report.versions, 'version')}, about ${saySize(last.report.bytes)}.`}
      </p>
      {running && (
        <div className="ov-rule-bar" role="status">
          <span>{running.doing || 'waiting for its turn'}</span>
          <Progress share={running.total ? running.done / running.total : 0} name="Progress of the sweep" />
          {maySweep && (
            <Button size="sm" variant="outline-secondary" onClick={() => void act(api.keeping.cancelSweep)}>
              End it
            </Button>
          )}
        </div>
      )}
      {maySweep && !running && due.total > 0 && (
        <Button variant="outline-secondary" onClick={() => setIsAsking(true)}>
          Sweep now
        </Button>
      )}
      {isAsking && (
        <FormDialog
          id="sweep"
          title="Sweep now"
          act={`Remove ${plural(due.total, 'version')}`}
          forGood
          save={async () => {
            setIsAsking(false);
            await act(api.keeping.startSweep);
          }}
          onClose={() => setIsAsking(false)}
        >
          <p>{what}, go for good. The ledger keeps what they were. Keepers and whatever something stands on stay.</p>
        </FormDialog>
      )}
    </section>
  );
}
