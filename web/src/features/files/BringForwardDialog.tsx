'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { call, sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';
import { api } from '../../contract/operations/index.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

export function BringForwardDialog(): React.ReactNode {
  const { b, newest } = useShown();
  const { close, land } = useFileActs();
  // What is shown meanwhile is no matter: it was asked of this version.
  const [version] = useState(b);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const act = async (note: string): Promise<void> => {
    setBusy(true);
    try {
      const made = await call(api.versions.bringForward, { versionId: version.id, body: { note } });
      await land(`v${version.number} was brought forward as v${made.number}. Nothing was removed.`, made);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={close} aria-labelledby="forward-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act(fieldOf(e.currentTarget, 'note'));
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="forward-title">
            Bring v{version.number} forward
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <p>
            The content of v{version.number} becomes v{newest.number + 1}, the newest version.{' '}
            {newest.number - version.number === 1
              ? `v${newest.number} stays`
              : `v${version.number + 1} to v${newest.number} stay`}{' '}
            in the history and can be brought forward in turn.
          </p>
          <Form.Group controlId="forward-note">
            <Form.Label>Why</Form.Label>
            <Form.Control as="textarea" name="note" rows={3} maxLength={3900} autoFocus />
            <Form.Text>The note begins with “Brought forward from v{version.number}”.</Form.Text>
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={close} disabled={busy}>
          Bring v{version.number} forward as v{newest.number + 1}
        </DialogActs>
      </Form>
    </Modal>
  );
}
