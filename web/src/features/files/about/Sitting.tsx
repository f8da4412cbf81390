'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { api } from '../../../contract/operations/index.ts';
import { call, sentenceOf } from '../../api/client.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { Said } from '../../frame/Said.tsx';
import { sayMoment, sayTime } from '../../words.ts';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

/** What was saved in one go, told as one; and the old habit of closing without saving. */
export function Sitting(): React.ReactNode {
  const { b, columns, move, beside, sittingOf } = useShown();
  const { mayCheckIn, land } = useFileActs();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const saves = sittingOf(b.id);
  const [first] = saves;
  const last = saves.at(-1);
  if (b.kind !== 'autosave' || !first || !last) return null;
  const before = beside(first.id, -1, true)?.id ?? columns.lines.find((line) => line.id === columns.line)?.from?.id;
  const isClosed = columns.lines.find((line) => line.id === columns.line)?.closed ?? false;
  const leave = async (): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const made = await call(api.saving.leave, { versionId: b.id, body: {} });
      await land(`${made.note} It is v${made.number} now; nothing was removed.`, made);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
    setBusy(false);
  };
  const until = sayTime(first.at) === sayTime(last.at) ? '' : ` to ${sayTime(last.at)}`;
  return (
    <section aria-label="Sitting">
      <h2>Sitting</h2>
      <p>
        {saves.length === 1 ? '1 save' : `${saves.length} saves`} by {last.by}, {sayMoment(first.at)}
        {until}
      </p>
      {before !== undefined && saves.length > 1 && <Summary a={before} b={last.id} />}
      {problem && <Said problem>{problem}</Said>}
      <div className="ov-acts">
        {before !== undefined && (
          <Button size="sm" variant="outline-secondary" onClick={() => move({ a: before, b: last.id })}>
            What changed in this sitting
          </Button>
        )}
        {mayCheckIn && !isClosed && before !== undefined && (
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            title="As closing without saving: one act, and nothing is removed"
            onClick={() => void leave()}
          >
            Back to how it was when it began
          </Button>
        )}
      </div>
    </section>
  );
}

/** What all of the sitting did, in a sentence. */
function Summary({ a, b }: { readonly a: string; readonly b: string }): React.ReactNode {
  const { data } = useAnswer(api.comparisons.get, { query: { a, b } }, { revalidateOnFocus: false });
  return <p className="ov-quiet">{data ? `All of it: ${data.comparison.summary}` : 'Comparing …'}</p>;
}
