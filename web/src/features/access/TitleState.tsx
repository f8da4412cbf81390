'use client';
/** Before something is given to others: the state that it is in gets a title, so that it can be told and found again. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { call, sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';

interface Props {
  readonly projectId: string;
  readonly folderId: string | null;
  /** What is meant, such as “the whole project”. */
  readonly where: string;
}

export function TitleState({ projectId, folderId, where }: Props): React.ReactNode {
  const [said, setSaid] = useState<{ readonly problem: boolean; readonly text: string }>();
  const title = async (form: HTMLFormElement): Promise<void> => {
    const body = { folder: folderId ?? undefined, title: fieldOf(form, 'title') };
    try {
      const { sentence } = await call(api.projects.titleState, { projectId, body });
      setSaid({ problem: false, text: sentence });
      form.reset();
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
  };
  return (
    <section aria-label="Title this state" className="ov-title-state">
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          void title(event.currentTarget);
        }}
      >
        <Form.Label htmlFor="state-title">
          Before others get to see more: give the state that {where} is in a title. The newest version of each file
          becomes a keeper.
        </Form.Label>
        <div className="d-flex gap-2">
          <Form.Control
            id="state-title"
            name="title"
            size="sm"
            required
            maxLength={120}
            placeholder="As given to the harbour office"
          />
          <Button type="submit" size="sm" variant="outline-secondary" className="text-nowrap">
            Title this state
          </Button>
        </div>
      </Form>
    </section>
  );
}
