'use client';
/** A dialog with a form that is sent: it stays open, with a sentence, where that will not do. */
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { sentenceOf } from '../api/client.ts';
import { DialogActs } from './DialogActs.tsx';
import { Said } from './Said.tsx';

interface Props {
  /** What its heading is known by. */
  readonly id: string;
  readonly title: string;
  /** What it does, on its button. */
  readonly act: string;
  /** Closes the dialog itself, once all is done; rejects with a sentence where it cannot be done. */
  readonly save: (form: HTMLFormElement) => Promise<void>;
  readonly onClose: () => void;
  /** What it does cannot be undone. */
  readonly forGood?: boolean;
  /** False while it cannot be sent. */
  readonly ready?: boolean;
  readonly children: React.ReactNode;
}

export function FormDialog({
  id,
  title,
  act,
  save,
  onClose,
  forGood = false,
  ready = true,
  children,
}: Props): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const send = async (form: HTMLFormElement): Promise<void> => {
    setBusy(true);
    try {
      await save(form);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby={`${id}-title`}>
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void send(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id={`${id}-title`}>
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          {children}
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={busy || !ready} forGood={forGood}>
          {act}
        </DialogActs>
      </Form>
    </Modal>
  );
}
