'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Version } from '../../contract/api.ts';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import type { Target } from './target.ts';
import type { CommentsHere } from './useComments.ts';

/** A comment that is being written. */
export function NewComment({
  version,
  target,
  here,
  onDone,
}: {
  version: Version;
  target: Target;
  here: CommentsHere;
  onDone: (id: string | undefined) => void;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const send = async (body: string): Promise<void> => {
    setBusy(true);
    try {
      const made = await here.add({ version: version.id, body, ...(target.kind === 'place' ? { at: target.at } : {}) });
      onDone(made.id);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Form
      className="ov-new"
      onSubmit={(e) => {
        e.preventDefault();
        void send(fieldOf(e.currentTarget, 'comment'));
      }}
    >
      {problem && <Said problem>{problem}</Said>}
      <Form.Group controlId="comment">
        <Form.Label>{target.kind === 'place' ? target.says : `About v${version.number} as a whole`}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          name="comment"
          required
          maxLength={4000}
          autoFocus
          placeholder="@name calls someone"
        />
      </Form.Group>
      <div className="d-flex gap-2 mt-1">
        <Button type="submit" size="sm" disabled={busy}>
          Say it
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={() => onDone(undefined)}>
          Cancel
        </Button>
      </div>
    </Form>
  );
}
