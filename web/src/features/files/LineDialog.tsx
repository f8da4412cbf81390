'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { RailColumns } from '../../contract/api.ts';
import { api } from '../../contract/operations/index.ts';
import { call, sentenceOf } from '../api/client.ts';
import { DialogActs } from '../frame/DialogActs.tsx';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { useFileActs } from './state/acts.tsx';

type Line = RailColumns['lines'][number];

/** Renames a line, closes it, or opens it again. */
export function LineDialog({ line }: { readonly line: Line }): React.ReactNode {
  const { close, land } = useFileActs();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const act = async (form: HTMLFormElement): Promise<void> => {
    setBusy(true);
    try {
      const closed = new FormData(form).get('closed') !== null;
      const changed = await call(api.lines.change, { lineId: line.id, body: { name: fieldOf(form, 'name'), closed } });
      await land(`The line is called “${changed.name}” and is ${changed.closed ? 'closed' : 'open'}.`, undefined);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={close} aria-labelledby="line-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="line-title">
            The line “{line.name}”
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="line-name">
            <Form.Label>Name</Form.Label>
            <Form.Control name="name" required maxLength={80} defaultValue={line.name} autoFocus />
          </Form.Group>
          <Form.Check
            className="mt-3"
            id="line-closed"
            name="closed"
            defaultChecked={line.closed}
            label="Closed: kept as it is, without new versions"
          />
        </Modal.Body>
        <DialogActs onCancel={close} disabled={busy}>
          Save
        </DialogActs>
      </Form>
    </Modal>
  );
}
