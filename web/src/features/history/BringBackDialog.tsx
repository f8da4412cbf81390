'use client';

/** Brings a deleted file back: at its last version or an older one, under its name or another. */
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { FileEntry } from '../../contract/api.ts';
import type { DeletedFile } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { sayMoment } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

export function BringBackDialog({
  file,
  onClose,
  onBack,
}: {
  file: DeletedFile;
  onClose: () => void;
  onBack: (made: FileEntry, from: number | undefined) => void;
}): React.ReactNode {
  const { data: versions } = useAnswer(api.files.versions, { fileId: file.id }, { revalidateOnFocus: false });
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const newestFirst = [...(versions ?? [])].reverse();
  const last = newestFirst[0];
  const act = async (form: HTMLFormElement): Promise<void> => {
    setBusy(true);
    const versionId = fieldOf(form, 'version');
    const name = fieldOf(form, 'name').trim();
    const reason = fieldOf(form, 'reason').trim();
    try {
      const made = await call(api.files.bringBack, {
        fileId: file.id,
        body: {
          ...(versionId && versionId !== last?.id ? { versionId } : {}),
          ...(name && name !== file.name ? { name } : {}),
          ...(reason ? { reason } : {}),
        },
      });
      onBack(made, versionId === last?.id ? undefined : versions?.find((v) => v.id === versionId)?.number);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="back-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="back-title">
            Bring {file.name} back
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="back-version" className="mb-3">
            <Form.Label>At version</Form.Label>
            <Form.Select name="version" disabled={!versions || busy}>
              {newestFirst.map((v) => (
                <option key={v.id} value={v.id}>
                  v{v.number}
                  {v === last ? ', the last' : ''}: {sayMoment(v.at)}, {v.by.name}
                  {v.note ? `: ${v.note.slice(0, 60)}` : ''}
                </option>
              ))}
            </Form.Select>
            <Form.Text>All versions are kept. With an older one, that is brought forward as the newest.</Form.Text>
          </Form.Group>
          <Form.Group controlId="back-name" className="mb-3">
            <Form.Label>Name</Form.Label>
            <Form.Control
              name="name"
              defaultValue={file.name}
              maxLength={400}
              required
              disabled={busy}
              autoComplete="off"
            />
          </Form.Group>
          <Form.Group controlId="back-reason">
            <Form.Label>Why?</Form.Label>
            <Form.Control name="reason" maxLength={2000} disabled={busy} autoComplete="off" />
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={busy || !versions}>
          Bring it back
        </DialogActs>
      </Form>
    </Modal>
  );
}
