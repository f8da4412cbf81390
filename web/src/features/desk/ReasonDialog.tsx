'use client';

import Form from 'react-bootstrap/Form';
import { AskDialog } from '../frame/AskDialog.tsx';

export interface ReasonQuestion {
  readonly title: string;
  /** What it means. */
  readonly text: string;
  readonly act: string;
  /** It may stay empty. */
  readonly optional?: boolean;
  readonly save: (reason: string) => Promise<void>;
}

interface Props {
  readonly question: ReasonQuestion;
  readonly onClose: () => void;
}

/** Asks for a reason before something is done that others will want explained. */
export function ReasonDialog({ question, onClose }: Props): React.ReactNode {
  const { title, text, act, optional = false, save } = question;
  return (
    <AskDialog title={title} act={act} field="reason" save={save} onClose={onClose}>
      <p>{text}</p>
      <Form.Group controlId="reason">
        <Form.Label>{optional ? 'Note: why?' : 'Reason'}</Form.Label>
        <Form.Control as="textarea" name="reason" rows={2} maxLength={2000} required={!optional} autoFocus />
      </Form.Group>
    </AskDialog>
  );
}
