'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Belongs } from '../references/Belongs.tsx';
import { aboutOtherFormat } from './check-in-questions.ts';
import { NoteField } from './NoteField.tsx';
import { Said } from '../frame/Said.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';
import { refreshVersions, useVersion } from './versions.ts';
import { useCheckIn } from './useCheckIn.ts';
import { useChosen } from './useChosen.ts';
import { saySize } from '../words.ts';
import { Progress } from '../frame/Progress.tsx';
import { DialogActs } from '../frame/DialogActs.tsx';

interface Props {
  /** What was let go over the page. */
  readonly dropped?: File;
}

export function CheckInDialog({ dropped }: Props): React.ReactNode {
  const { file, newest: latest, columns, move } = useShown();
  const { rights, standing, close: onClose } = useFileActs();
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
  const [note, setNote] = useState('');
  const [keep, setKeep] = useState(false);
  const { otherFormat, proposal, belongings, desk } = useChosen(chosen, newest);
  const [along, setAlong] = useState<ReadonlyMap<string, File>>(new Map());
  // What somebody took over goes on from the version that its former holder had.
  const before = useVersion(
    file.id,
    takenOver ? (columns.lines[0]?.id ?? columns.line) : columns.line,
    takenOver ? { id: takenOver.versionId, number: takenOver.number } : newest,
  );
  const from = before ?? newest;
  const { share, problem, question, ask, forget, send, cancel } = useCheckIn({ newest, from, note, keep, along, desk });
  const submit = (): void => {
    if (!chosen) return;
    const fields = { base: newest.id };
    if (otherFormat) ask(aboutOtherFormat(chosen.name, file.name, fields));
    else send(chosen, fields);
  };
  const busy = share !== undefined;
  const renamed = chosen && chosen.name.toLowerCase() !== file.name.toLowerCase();
  return (
    <Modal show onHide={() => !busy && onClose()} backdrop="static" aria-labelledby="checkin-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          submit();
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
                <Button size="sm" onClick={() => chosen && send(chosen, question.fields)}>
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
                forget();
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
          onCancel={() => (busy ? cancel() : onClose())}
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
