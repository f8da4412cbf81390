'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Hold } from '@ovrel/core';
import { api } from '../../../contract/operations/index.ts';
import { sentenceOf } from '../../api/client.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { Said } from '../../frame/Said.tsx';
import { keep, sayGoing } from '../../keeping/keep.ts';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

const holdWords: Readonly<Record<Hold, string>> = {
  keeper: 'it has a title',
  newest: 'it is the newest of its line',
  commented: 'somebody commented on it',
  'branched from': 'a line starts from it',
  'gone on from': 'another version was made of it',
  'referred to': 'another file refers to it',
  'at work': 'somebody is at work on it',
  together: 'it was checked in together with others that stay',
};

/** When this version goes by the keeping rules, and how to keep it; or what holds it. */
export function Keeping(): React.ReactNode {
  const { b } = useShown();
  const { mayCheckIn, land } = useFileActs();
  const [problem, setProblem] = useState<string>();
  const { data, mutate } = useAnswer(api.keeping.fate, { versionId: b.id }, { shouldRetryOnError: false });
  if (!data || (data.goes === null && data.holds.length === 0)) return null;
  const keepIt = async (): Promise<void> => {
    setProblem(undefined);
    try {
      const title = await keep(b.id);
      await mutate();
      await land(`v${b.number} is “${title}” now, and stays.`, undefined);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <section aria-label="Keeping">
      <h2>Keeping</h2>
      {problem && <Said problem>{problem}</Said>}
      {data.goes !== null && (
        <p className="ov-bad">
          <i className="bi bi-hourglass-split" aria-hidden="true" /> This version goes: {sayGoing(data.goes)}.
        </p>
      )}
      {data.goes === null && <p>It stays, since {data.holds.map((hold) => holdWords[hold]).join(' and ')}.</p>}
      <p className="ov-quiet">The rule for its kind: {data.rule}.</p>
      {data.goes !== null && data.mayKeep && mayCheckIn && (
        <Button size="sm" variant="outline-secondary" onClick={() => void keepIt()}>
          Keep it
        </Button>
      )}
    </section>
  );
}
