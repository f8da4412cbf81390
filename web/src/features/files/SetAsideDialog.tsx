'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { api } from '../../contract/operations/index.ts';
import { call, sentenceOf } from '../api/client.ts';
import { DialogActs } from '../frame/DialogActs.tsx';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

/** What is there now becomes a file of its own, and the starting state is the newest again. */
export function SetAsideDialog(): React.ReactNode {
  const { file, b, newest } = useShown();
  const { close, land } = useFileActs();
  const [start] = useState(b);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const dot = file.name.lastIndexOf('.');
  const act = async (form: HTMLFormElement): Promise<void> => {
    setBusy(true);
    try {
      const body = { name: fieldOf(form, 'name'), reason: fieldOf(form, 'reason') };
      const done = await call(api.versions.setAside, { versionId: start.id, body });
      await land(done.sentence, done.newest);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={close} aria-labelledby="aside-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="aside-title">
            Set v{newest.number} aside and start afresh
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <p>
            v{newest.number} becomes a file of its own, and “{start.title}” the newest version here. Both are told in
            one set.
          </p>
          <Form.Group controlId="aside-name">
            <Form.Label>Name of what is set aside</Form.Label>
            <Form.Control
              name="name"
              required
              maxLength={255}
              defaultValue={`${dot > 0 ? file.name.slice(0, dot) : file.name} {date} {number}`}
              autoFocus
            />
            <Form.Text>
              {'{date}'}, {'{time}'} and {'{number}'} are filled in.
            </Form.Text>
          </Form.Group>
          <Form.Group controlId="aside-reason" className="mt-2">
            <Form.Label>Why</Form.Label>
            <Form.Control as="textarea" name="reason" rows={2} maxLength={3900} />
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={close} disabled={busy}>
          Set aside and start afresh
        </DialogActs>
      </Form>
    </Modal>
  );
}
