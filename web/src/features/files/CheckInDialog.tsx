'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { call, Refused, sentenceOf, upload, type Upload } from '../api/client.ts';
import { compareHere } from '../desk-folder/orders.ts';
import { belongingsOf, type Belonging } from '../references/belonging.ts';
import { Belongs } from '../references/Belongs.tsx';
import type { DeskFile } from '../../contract/desk.ts';
import { NoteField } from './NoteField.tsx';
import { Said } from '../frame/Said.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';
import { refreshVersions, useVersion } from './versions.ts';
import { saySize } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { Progress } from '../frame/Progress.tsx';
import { DialogActs } from '../frame/DialogActs.tsx';

interface Props {
  /** What was let go over the page. */
  readonly dropped?: File;
}

/** Something that has to be answered before the version can land. */
interface Question {
  readonly sentence: string;
  readonly answer: string;
  readonly fields: Readonly<Record<string, string>>;
  readonly lookAt?: { readonly id: string; readonly number: number };
}

/** Whether a file is of another format by its first bytes, so that a wrong one is asked about before it is sent. */
async function isOtherFormat(file: File, than: string | null): Promise<boolean> {
  const { cardOf, detect, HEAD_BYTES, isSameFormat } = await import('@ovrel/core/detect');
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  return !isSameFormat(detect(head, file.name), cardOf(than));
}

/** Larger files are not looked into before they are sent, in bytes. */
const LOOKED_INTO = 60 * 1024 * 1024;

export function CheckInDialog({ dropped }: Props): React.ReactNode {
  const { file, newest: latest, columns, move } = useShown();
  const { rights, references, standing, land, close: onClose } = useFileActs();
  const me = rights.me.id;
  const holding = standing?.checkout?.by.id === me;
  // Somebody took the sender's check-out over.
  const takenOver = standing?.takenOver ?? undefined;
  const onLookAt = (version: string): void => {
    onClose();
    void refreshVersions(file.id).then(() => move({ a: version, b: version }));
  };
  // The version that the sender saw on opening this: what lands meanwhile is told at the check-in, and not passed over.
  const [newest] = useState(latest);
  const [chosen, setChosen] = useState<File | undefined>(dropped);
  const [otherFormat, setOtherFormat] = useState(false);
  const [note, setNote] = useState('');
  const [keep, setKeep] = useState(false);
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const [question, setQuestion] = useState<Question>();
  const [proposal, setProposal] = useState('');
  const [belongings, setBelongings] = useState<readonly Belonging[]>([]);
  const [along, setAlong] = useState<ReadonlyMap<string, File>>(new Map());
  const [desk, setDesk] = useState<readonly DeskFile[]>([]);
  const sending = useRef<Upload<unknown>>(undefined);
  useEffect(() => {
    let stale = false;
    setOtherFormat(false);
    if (chosen)
      void isOtherFormat(chosen, newest.format).then(
        (other) => !stale && setOtherFormat(other),
        () => undefined,
      );
    return () => {
      stale = true;
    };
  }, [chosen, newest.format]);
  const { id: fileId, name, projectId } = file;
  // What changed, and what belongs to it, as the chosen file has it.
  useEffect(() => {
    let stale = false;
    setProposal('');
    setBelongings([]);
    if (!chosen || chosen.size > LOOKED_INTO) return;
    const fresh =
      <T,>(set: (value: T) => void) =>
      (value: T): void => {
        if (!stale) set(value);
      };
    void compareHere(name, newest.id, chosen).then(
      fresh(({ summary }) => setProposal(summary)),
      () => undefined,
    );
    void call(api.desk.files, { projectId })
      .then((files) => {
        if (!stale) setDesk(files);
        return belongingsOf(chosen, files.find((f) => f.fileId === fileId)?.path ?? name, files, references);
      })
      .then(fresh(setBelongings), () => undefined);
    return () => {
      stale = true;
    };
  }, [chosen, fileId, name, projectId, newest.id, references]);
  // What somebody took over goes on from the version that its former holder had.
  const before = useVersion(
    file.id,
    takenOver ? (columns.lines[0]?.id ?? columns.line) : columns.line,
    takenOver ? { id: takenOver.versionId, number: takenOver.number } : newest,
  );
  const from = before ?? newest;
  const send = async (fields: Readonly<Record<string, string>>): Promise<void> => {
    if (!chosen) return;
    if (otherFormat && !fields['allowOtherFormat']) {
      setQuestion({
        sentence: `“${chosen.name}” is of another kind than the newest version of “${file.name}”. Check it in all the same?`,
        answer: 'Check it in all the same',
        fields: { ...fields, allowOtherFormat: 'yes' },
      });
      return;
    }
    setProblem(undefined);
    setQuestion(undefined);
    setShare(0);
    try {
      if (along.size) {
        const plan = [
          { fileId, base: fields['base'], keep, allowOtherFormat: fields['allowOtherFormat'] === 'yes' },
          ...[...along.keys()].map((id) => ({ fileId: id, base: desk.find((f) => f.fileId === id)?.newest.id, keep })),
        ];
        const together = upload(
          api.sets.checkIn,
          { projectId, fields: { note, plan: JSON.stringify(plan) }, files: [chosen, ...along.values()] },
          setShare,
        );
        sending.current = together;
        const { set, sentence, hints } = await together.done;
        const id = set?.files.find((f) => f.fileId === fileId)?.versionId;
        await land([sentence, ...hints].join(' '), id ? { id, lineId: newest.lineId } : undefined);
        return;
      }
      const alone = upload(
        api.files.checkIn,
        { fileId, fields: { note, ...(keep ? { keep: 'yes' } : {}), ...fields }, files: chosen },
        setShare,
      );
      sending.current = alone;
      const result = await alone.done;
      await land([result.sentence, ...result.hints].join(' '), result.made ? result.version : undefined);
    } catch (error) {
      setShare(undefined);
      if (error instanceof Refused && error.code === 'other-format')
        setQuestion({
          sentence: error.message,
          answer: 'Check it in all the same',
          fields: { ...fields, allowOtherFormat: 'yes' },
        });
      else if (error instanceof Refused && (error.code === 'taken-over' || error.code === 'checked-out')) {
        setQuestion({
          sentence: error.message,
          answer: `Check it in as a branch from v${from.number}`,
          fields: { ...fields, base: from.id, branch: 'yes' },
        });
      } else if (error instanceof Refused && error.code === 'newer-version') {
        const number = Number(error.extra['newest']);
        const id = String(error.extra['newestId']);
        setQuestion({
          sentence: error.message,
          answer: `Check in on top of v${number}`,
          fields: { ...fields, base: id },
          lookAt: { id, number },
        });
      } else setProblem(sentenceOf(error));
    }
  };
  const busy = share !== undefined;
  const renamed = chosen && chosen.name.toLowerCase() !== file.name.toLowerCase();
  return (
    <Modal show onHide={() => !busy && onClose()} backdrop="static" aria-labelledby="checkin-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void send({ base: newest.id });
        }}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          e.stopPropagation();
          if (!busy && e.dataTransfer.files[0]) setChosen(e.dataTransfer.files[0]);
        }}
      >
        <Modal.Header>
          <Modal.Title as="h2" id="checkin-title">
            Check in a new version of {file.name}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          {question && (
            <Said problem>
              <p>{question.sentence}</p>
              <div className="d-flex gap-2">
                <Button size="sm" onClick={() => void send(question.fields)}>
                  {question.answer}
                </Button>
                {question.lookAt && <LookAt version={question.lookAt} onLookAt={onLookAt} />}
              </div>
            </Said>
          )}
          <Form.Group controlId="checkin-file" className="mb-3">
            <Form.Label>File</Form.Label>
            {dropped && chosen === dropped ? (
              <p className="mb-1">
                {chosen.name}, {saySize(chosen.size)}
              </p>
            ) : null}
            <Form.Control
              type="file"
              disabled={busy}
              required={!chosen}
              onChange={(e) => {
                const picked = (e.target as HTMLInputElement).files?.[0];
                setQuestion(undefined);
                if (picked) setChosen(picked);
              }}
            />
            <Form.Text>
              {renamed ? `It is called “${chosen.name}”, and will be a version of “${file.name}”. ` : ''}You can also
              drop a file here.
            </Form.Text>
          </Form.Group>
          <NoteField id="checkin-note" note={note} proposal={proposal} busy={busy} onNote={setNote} />
          <Belongs
            list={belongings}
            me={me}
            busy={busy}
            along={along}
            onAlong={(id, picked) =>
              setAlong((before) => {
                const next = new Map(before);
                if (picked) next.set(id, picked);
                else next.delete(id);
                return next;
              })
            }
          />
          {holding && (
            <Form.Check
              className="mt-2"
              id="checkin-keep"
              label="Keep it checked out"
              checked={keep}
              disabled={busy}
              onChange={(e) => setKeep(e.target.checked)}
            />
          )}
          {busy && (
            <div className="mt-3" role="status">
              <Progress share={share} name="Sent" />
              <p className="mb-0 mt-1">
                {share < 1
                  ? `Sending, ${Math.round(share * 100)} % of ${saySize(chosen?.size ?? 0)}`
                  : 'All sent; being stored …'}
              </p>
            </div>
          )}
        </Modal.Body>
        <DialogActs
          onCancel={() => (busy ? sending.current?.cancel() : onClose())}
          disabled={busy || !chosen || question !== undefined}
          cancel={busy ? 'Cancel the upload' : 'Cancel'}
        >
          {along.size ? `Check in ${along.size + 1} files together` : `Check in as v${newest.number + 1}`}
        </DialogActs>
      </Form>
    </Modal>
  );
}

interface LookAtProps {
  readonly version: { readonly id: string; readonly number: number };
  readonly onLookAt: (id: string) => void;
}

const LookAt = ({ version, onLookAt }: LookAtProps): React.ReactNode => (
  <Button size="sm" variant="outline-secondary" onClick={() => onLookAt(version.id)}>
    Look at v{version.number}
  </Button>
);
