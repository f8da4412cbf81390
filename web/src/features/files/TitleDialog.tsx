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

/** A title makes a version a keeper: no rule and nobody's erasing removes it. */
export function TitleDialog(): React.ReactNode {
  const { b } = useShown();
  const { close, land } = useFileActs();
  const [version] = useState(b);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const save = async (form: HTMLFormElement): Promise<void> => {
    setBusy(true);
    try {
      const title = fieldOf(form, 'title').trim() || null;
      const starting = title !== null && new FormData(form).get('starting') !== null;
      const made = await call(api.versions.title, { versionId: version.id, body: { title, starting } });
      await land(
        title === null
          ? `v${version.number} has no title any more.`
          : `v${version.number} is “${title}” now, and is kept.`,
        made,
      );
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={close} aria-labelledby="title-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void save(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="title-title">
            Title of v{version.number}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="title-text">
            <Form.Label>Title</Form.Label>
            <Form.Control name="title" maxLength={120} defaultValue={version.title ?? ''} autoFocus />
            <Form.Text>
              With a title it is a keeper: nothing removes it. Leave it empty to take the title away.
            </Form.Text>
          </Form.Group>
          <Form.Check
            className="mt-3"
            id="title-starting"
            name="starting"
            defaultChecked={version.starting}
            label="A starting state: the file is brought back to it again and again"
          />
        </Modal.Body>
        <DialogActs onCancel={close} disabled={busy}>
          Save
        </DialogActs>
      </Form>
    </Modal>
  );
}
