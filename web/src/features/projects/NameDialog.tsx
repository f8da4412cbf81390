'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';

export interface NameQuestion {
  readonly title: string;
  readonly act: string;
  readonly value: string;
  /** Rejects with a sentence where the name can't be used. */
  readonly save: (name: string) => Promise<void>;
}

/** Asks for one name: new project, new folder, rename. */
export function NameDialog({ question, onClose }: { question: NameQuestion; onClose: () => void }): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const save = async (name: string): Promise<void> => {
    setBusy(true);
    try {
      await question.save(name);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="name-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void save(fieldOf(e.currentTarget, 'name'));
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="name-title">
            {question.title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="the-name">
            <Form.Label>Name</Form.Label>
            <Form.Control
              name="name"
              defaultValue={question.value}
              required
              autoFocus
              autoComplete="off"
              onFocus={(e) => e.target.select()}
            />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={busy}>
            {question.act}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
