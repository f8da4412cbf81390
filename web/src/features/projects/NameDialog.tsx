'use client';

import Form from 'react-bootstrap/Form';
import { AskDialog } from '../frame/AskDialog.tsx';

export interface NameQuestion {
  readonly title: string;
  readonly act: string;
  readonly value: string;
  /** Rejects with a sentence where the name can't be used. */
  readonly save: (name: string) => Promise<void>;
}

interface Props {
  readonly question: NameQuestion;
  readonly onClose: () => void;
}

/** Asks for one name: new project, new folder, rename. */
export function NameDialog({ question, onClose }: Props): React.ReactNode {
  const { title, act, value, save } = question;
  return (
    <AskDialog title={title} act={act} field="name" save={save} onClose={onClose}>
      <Form.Group controlId="the-name">
        <Form.Label>Name</Form.Label>
        <Form.Control
          name="name"
          defaultValue={value}
          required
          autoFocus
          autoComplete="off"
          onFocus={(e) => e.target.select()}
        />
      </Form.Group>
    </AskDialog>
  );
}
