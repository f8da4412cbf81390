'use client';

import { useState } from 'react';
import { sentenceOf } from '../api/client.ts';
import { Said } from './Said.tsx';

/** Does something and says on the page how it went. Rejects where nothing was done, for those who have more to say. */
export type Attempt = (sentence: string, work: () => Promise<unknown>) => Promise<void>;

/** `after` shows things as they are then, whether it went well or not. */
export function useAttempt(after: () => Promise<unknown>): {
  readonly said: React.ReactNode;
  readonly attempt: Attempt;
} {
  const [outcome, setOutcome] = useState<{ problem: boolean; text: string }>();
  const attempt: Attempt = async (sentence, work) => {
    try {
      await work();
      setOutcome({ problem: false, text: sentence });
    } catch (error) {
      setOutcome({ problem: true, text: sentenceOf(error) });
      throw error;
    } finally {
      await after();
    }
  };
  return { said: outcome && <Said problem={outcome.problem}>{outcome.text}</Said>, attempt };
}

/** For those who have no more to say: what went wrong stands on the page. Tells whether it went well. */
export const told = (work: Promise<unknown>): Promise<boolean> =>
  work.then(
    () => true,
    () => false,
  );
