'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';

export interface ReasonQuestion {
  readonly title: string;
  /** What it means. */
  readonly text: string;
  readonly act: string;
  /** It may stay empty. */
  readonly optional?: boolean;
  readonly save: (reason: string) => Promise<void>;
}

/** Asks for a reason before something is done that others will want explained. */
export function ReasonDialog({
  question,
  onClose,
}: {
  question: ReasonQuestion;
  onClose: () => void;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const act = async (reason: string): Promise<void> => {
    setBusy(true);
    try {
      await question.save(reason);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="reason-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void act(fieldOf(e.currentTarget, 'reason'));
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="reason-title">
            {question.title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <p>{question.text}</p>
          <Form.Group controlId="reason">
            <Form.Label>{question.optional ? 'Note: why?' : 'Reason'}</Form.Label>
            <Form.Control
              as="textarea"
              name="reason"
              rows={2}
              maxLength={2000}
              required={!question.optional}
              autoFocus
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
