'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';

interface Props {
  readonly id: string;
  readonly note: string;
  /** What changed, as Ovrel sees it: it can be taken as the note. Empty while nothing is known. */
  readonly proposal: string;
  readonly busy: boolean;
  readonly onNote: (note: string) => void;
}

/** Asks why, at a check-in. */
export function NoteField({ id, note, proposal, busy, onNote }: Props): React.ReactNode {
  return (
    <Form.Group controlId={id}>
      <Form.Label>Note: why?</Form.Label>
      <Form.Control
        as="textarea"
        rows={3}
        maxLength={4000}
        value={note}
        disabled={busy}
        onChange={(e) => onNote(e.target.value)}
      />
      {proposal && !note && (
        <Form.Text as="div">
          What changed: <span className="ov-proposal">{proposal}</span>{' '}
          <Button variant="link" className="p-0 align-baseline" onClick={() => onNote(proposal)}>
            Take this as the note
          </Button>
        </Form.Text>
      )}
    </Form.Group>
  );
}
