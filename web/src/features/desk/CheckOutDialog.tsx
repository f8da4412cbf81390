'use client';

/** Checking out a file together with those that belong to it. */
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { FileEntry } from '../../contract/api.ts';
import type { References } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { warning } from '../references/References.tsx';
import { api } from '../../contract/operations/index.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

type Neighbour = References['neededBy'][number]['file'];

export function CheckOutDialog({
  file,
  references,
  onClose,
}: {
  file: FileEntry;
  references: References;
  onClose: () => void;
}): React.ReactNode {
  const { needs, neededBy } = references;
  const free = (f: Neighbour): boolean => f.holder === null && !f.deleted;
  const [along, setAlong] = useState<ReadonlySet<string>>(
    new Set(needs.flatMap((n) => (n.file && free(n.file) ? [n.file.id] : []))),
  );
  const [desk, setDesk] = useState('');
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const toggle = (id: string): void =>
    setAlong((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const act = async (): Promise<void> => {
    setBusy(true);
    try {
      await call(api.checkouts.take, { body: { files: [file.id, ...along], desk } });
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  const row = (f: Neighbour, says: string | undefined, key: string): React.ReactNode => (
    <li key={key}>
      <Form.Check
        id={`along-${key}`}
        disabled={!free(f) || busy}
        checked={along.has(f.id)}
        onChange={() => toggle(f.id)}
        label={
          <>
            {f.name} <span className="ov-mono">v{f.newest}</span>
            {f.holder !== null && <span className="ov-quiet"> held by {f.holder}</span>}
            {says && <span className="ov-quiet"> {says}</span>}
          </>
        }
      />
    </li>
  );
  return (
    <Modal show onHide={onClose} aria-labelledby="checkout-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="checkout-title">
            Check out {file.name}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="ov-along">
          {problem && <Said problem>{problem}</Said>}
          {needs.length > 0 && (
            <>
              <h3>It needs</h3>
              <ul>
                {needs.map((n, i) =>
                  n.file ? (
                    row(n.file, warning(n), `n${i}`)
                  ) : (
                    <li key={i} className="ov-warn">
                      <i className="bi bi-exclamation-triangle" aria-hidden="true" />{' '}
                      <span className="ov-mono">{n.target}</span>: {warning(n)}
                    </li>
                  ),
                )}
              </ul>
            </>
          )}
          {neededBy.length > 0 && (
            <>
              <h3>It is needed by</h3>
              <ul>{neededBy.map((u, i) => row(u.file, u.says, `u${i}`))}</ul>
            </>
          )}
          <Form.Group controlId="checkout-desk">
            <Form.Label>Where you work on it</Form.Label>
            <Form.Control
              value={desk}
              maxLength={200}
              onChange={(e) => setDesk(e.target.value)}
              placeholder="others see this; it may stay empty"
              autoComplete="off"
            />
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={busy}>
          {along.size ? `Check out ${along.size + 1} files` : 'Check it out'}
        </DialogActs>
      </Form>
    </Modal>
  );
}
