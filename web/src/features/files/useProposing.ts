import { useState } from 'react';
import { api } from '../../contract/operations/index.ts';
import type { Asking } from '../../contract/proposals.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useFileActs } from './state/acts.tsx';
import { usePicked } from './state/picked.tsx';
import { useShown } from './state/shown.tsx';

/** Has something made that is about to be done to the line shown, and shows it. */
export function useProposing(): { readonly propose: (asked: Asking, line?: string) => void; readonly busy: boolean } {
  const { file, columns, move } = useShown();
  const { say } = useFileActs();
  const { clear } = usePicked();
  const [busy, setBusy] = useState(false);
  const run = async (asked: Asking, line: string): Promise<void> => {
    setBusy(true);
    try {
      const made = await call(api.proposals.make, { fileId: file.id, body: { asked, line } });
      clear();
      say(undefined);
      move({ line, proposal: made.id });
    } catch (error) {
      say({ problem: true, text: sentenceOf(error) });
    } finally {
      setBusy(false);
    }
  };
  return { propose: (asked, line = columns.line) => void run(asked, line), busy };
}
