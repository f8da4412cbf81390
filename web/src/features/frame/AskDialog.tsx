'use client';
/** A dialog that asks for one thing, and stays open with a sentence where that will not do. */
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from './form.ts';
import { Said } from './Said.tsx';
import { DialogActs } from './DialogActs.tsx';

interface Props {
  readonly title: string;
  readonly act: string;
  /** Name of the field that holds the answer, among the children. */
  readonly field: string;
  /** Rejects with a sentence where the answer can't be used. */
  readonly save: (answer: string) => Promise<void>;
  readonly onClose: () => void;
  readonly children: React.ReactNode;
}

export function AskDialog({ title, act, field, save, onClose, children }: Props): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const answer = async (text: string): Promise<void> => {
    setBusy(true);
    try {
      await save(text);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby={`${field}-title`}>
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void answer(fieldOf(e.currentTarget, field));
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id={`${field}-title`}>
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          {children}
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={busy}>
          {act}
        </DialogActs>
      </Form>
    </Modal>
  );
}
