'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

interface Props {
  readonly projectId: string;
  readonly folder: { readonly id: string } | null;
  readonly name: string;
  readonly onClose: () => void;
}

/** A whole project or folder as a ZIP: as it is now, or as it was at a moment. */
export function ArchiveDialog({ projectId, folder, name, onClose }: Props): React.ReactNode {
  const [past, setPast] = useState(false);
  const [moment, setMoment] = useState('');
  const [said, setSaid] = useState('');
  const at = past && moment ? `${moment}:00Z` : undefined;
  const address = linkTo(api.projects.archive, { projectId, query: { folder: folder?.id, at } });
  const ready = !past || moment !== '';
  const start = async (): Promise<void> => {
    // Asked for with HEAD's meaning first: a refusal is a sentence here, not a page of its own.
    const probe = new AbortController();
    const response = await fetch(address, { signal: probe.signal }).catch(() => undefined);
    const problem = response?.ok
      ? undefined
      : (((await response?.json().catch(() => undefined)) as { detail?: string } | undefined)?.detail ??
        'Ovrel cannot be reached just now. Try again.');
    probe.abort();
    if (problem) {
      setSaid(problem);
      return;
    }
    const link = document.createElement('a');
    link.href = address;
    link.click();
    onClose();
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="archive-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) void start();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="archive-title">
            Download all of “{name}”
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>One ZIP with every file in its folder, each in one version.</p>
          <Form.Check
            type="radio"
            name="when"
            id="archive-now"
            label="As it is now: the newest versions"
            checked={!past}
            onChange={() => setPast(false)}
          />
          <Form.Check
            type="radio"
            name="when"
            id="archive-then"
            label="As it was at a moment"
            checked={past}
            onChange={() => setPast(true)}
          />
          {past && (
            <Form.Group controlId="archive-moment" className="mt-2 ms-4">
              <Form.Label>Moment (UTC)</Form.Label>
              <Form.Control
                type="datetime-local"
                value={moment}
                onChange={(e) => {
                  setMoment(e.target.value);
                  setSaid('');
                }}
                required
              />
              <Form.Text>Files that did not exist yet are left out.</Form.Text>
            </Form.Group>
          )}
          {said && (
            <p className="mt-2 mb-0 ov-bad" role="alert">
              {said}
            </p>
          )}
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={!ready} cancel="Close">
          Download
        </DialogActs>
      </Form>
    </Modal>
  );
}
