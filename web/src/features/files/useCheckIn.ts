import { useRef, useState } from 'react';
import type { Version } from '../../contract/api.ts';
import type { DeskFile } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { KeyOfSent } from '../api/attempt-key.ts';
import { sentenceOf } from '../api/client.ts';
import { upload, type Upload } from '../api/upload.ts';
import { questionOf, type Fields, type Question } from './check-in-questions.ts';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

interface Sending {
  /** The newest version, as the sender saw it. */
  readonly newest: Version;
  /** Where a branch would leave from. */
  readonly from: { readonly id: string; readonly number: number };
  readonly note: string;
  /** The sender goes on holding what is checked out. */
  readonly keep: boolean;
  /** Other files of the project that go along, by their ids: all land, or none. */
  readonly along: ReadonlyMap<string, File>;
  readonly desk: readonly DeskFile[];
}

interface CheckIn {
  /** How much has been sent, 0 to 1; undefined while nothing is. */
  readonly share: number | undefined;
  readonly problem: string | undefined;
  readonly question: Question | undefined;
  readonly ask: (question: Question) => void;
  /** Forgets the question: something else was chosen. */
  readonly forget: () => void;
  readonly send: (chosen: File, fields: Fields) => void;
  readonly cancel: () => void;
}

/** Sends a new version of the file that is shown, alone or with others, and asks what the server wants to know. */
export function useCheckIn({ newest, from, note, keep, along, desk }: Sending): CheckIn {
  const { file, columns } = useShown();
  const { land } = useFileActs();
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const [question, setQuestion] = useState<Question>();
  const sending = useRef<Upload<unknown>>(undefined);
  const [keys] = useState(() => new KeyOfSent());

  const sendAlone = async (chosen: File, fields: Fields): Promise<void> => {
    const kept: Fields = keep ? { keep: 'yes' } : {};
    const isMain = columns.lines.find((l) => l.id === newest.lineId)?.position === 0;
    const line: Fields = isMain || fields['branch'] === 'yes' ? {} : { line: newest.lineId };
    const said = { note, ...kept, ...line, ...fields };
    const key = keys.for(chosen, JSON.stringify(said));
    const request = { fileId: file.id, fields: { key, ...said }, files: chosen };
    const alone = upload(api.files.checkIn, request, setShare);
    sending.current = alone;
    const result = await alone.done;
    await land([result.sentence, ...result.hints].join(' '), result.made ? result.version : undefined);
  };

  const sendTogether = async (chosen: File, fields: Fields): Promise<void> => {
    const first = {
      fileId: file.id,
      base: fields['base'],
      keep,
      allowOtherFormat: fields['allowOtherFormat'] === 'yes',
    };
    const others = [...along.keys()].map((id) => ({
      fileId: id,
      base: desk.find((f) => f.fileId === id)?.newest.id,
      keep,
    }));
    const plan = JSON.stringify([first, ...others]);
    const files = [chosen, ...along.values()];
    const key = keys.for(note, plan, ...files);
    const request = { projectId: file.projectId, fields: { key, note, plan }, files };
    const together = upload(api.sets.checkIn, request, setShare);
    sending.current = together;
    const { set, sentence, hints } = await together.done;
    const id = set?.files.find((f) => f.fileId === file.id)?.versionId;
    await land([sentence, ...hints].join(' '), id ? { id, lineId: newest.lineId } : undefined);
  };

  const send = (chosen: File, fields: Fields): void => {
    setProblem(undefined);
    setQuestion(undefined);
    setShare(0);
    const sent = along.size ? sendTogether(chosen, fields) : sendAlone(chosen, fields);
    void sent.catch((error: unknown) => {
      setShare(undefined);
      const asked = questionOf(error, fields, from);
      if (asked) setQuestion(asked);
      else setProblem(sentenceOf(error));
    });
  };

  return {
    share,
    problem,
    question,
    ask: setQuestion,
    forget: () => setQuestion(undefined),
    send,
    cancel: () => sending.current?.cancel(),
  };
}
