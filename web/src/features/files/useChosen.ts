import { useEffect, useState } from 'react';
import type { Version } from '../../contract/api.ts';
import type { DeskFile } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { compareHere } from '../desk-folder/orders.ts';
import { belongingsOf, type Belonging } from '../references/belonging.ts';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

/** Larger files are not looked into before they are sent, in bytes. */
const LOOKED_INTO = 60 * 1024 * 1024;

interface Chosen {
  /** It is of another format than the newest version. */
  readonly otherFormat: boolean;
  /** What changed, as words for the note. */
  readonly proposal: string;
  /** What belongs to the file, as the chosen one has it. */
  readonly belongings: readonly Belonging[];
  /** Files of the project, as a desk sees them. */
  readonly desk: readonly DeskFile[];
}

/** Whether a file is of another format by its first bytes, so that a wrong one is asked about before it is sent. */
async function isOtherFormat(file: File, than: string | null): Promise<boolean> {
  const { cardOf, detect, HEAD_BYTES, isSameFormat } = await import('@ovrel/core/detect');
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  return !isSameFormat(detect(head, file.name), cardOf(than));
}

/** What can be told of a file that was chosen, before it is sent as a new version. */
export function useChosen(chosen: File | undefined, newest: Pick<Version, 'id' | 'format'>): Chosen {
  const { file } = useShown();
  const { references } = useFileActs();
  const { id: fileId, name, projectId } = file;
  const [otherFormat, setOtherFormat] = useState(false);
  const [proposal, setProposal] = useState('');
  const [belongings, setBelongings] = useState<readonly Belonging[]>([]);
  const [desk, setDesk] = useState<readonly DeskFile[]>([]);
  useEffect(() => {
    let stale = false;
    setOtherFormat(false);
    setProposal('');
    setBelongings([]);
    const fresh =
      <T>(set: (value: T) => void) =>
      (value: T): void => {
        if (!stale) set(value);
      };
    // Help before sending, no more: what can't be told here, the server tells.
    const untold = (): void => undefined;
    if (chosen) void isOtherFormat(chosen, newest.format).then(fresh(setOtherFormat), untold);
    if (chosen && chosen.size <= LOOKED_INTO) {
      void compareHere(name, newest.id, chosen).then(({ summary }) => fresh(setProposal)(summary), untold);
      void call(api.desk.files, { projectId })
        .then((files) => {
          fresh(setDesk)(files);
          return belongingsOf(chosen, files.find((f) => f.fileId === fileId)?.path ?? name, files, references);
        })
        .then(fresh(setBelongings), untold);
    }
    return () => {
      stale = true;
    };
  }, [chosen, fileId, name, projectId, newest.id, newest.format, references]);
  return { otherFormat, proposal, belongings, desk };
}
