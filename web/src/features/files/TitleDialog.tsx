'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

/** A title makes a version a keeper: no rule and nobody's erasing removes it. */
export function TitleDialog(): React.ReactNode {
  const { b } = useShown();
  const { close, land } = useFileActs();
  const [version] = useState(b);
  const save = async (form: HTMLFormElement): Promise<void> => {
    const title = fieldOf(form, 'title').trim() || null;
    const starting = title !== null && new FormData(form).get('starting') !== null;
    const made = await call(api.versions.title, {
      versionId: version.id,
      body: { title, description: fieldOf(form, 'description'), starting },
    });
    await land(
      title === null
        ? `v${version.number} has no title any more.`
        : `v${version.number} is “${title}” now, and is kept.`,
      made,
    );
  };
  return (
    <FormDialog id="title" title={`Title of v${version.number}`} act="Save" save={save} onClose={close}>
      <Form.Group controlId="title-text">
        <Form.Label>Title</Form.Label>
        <Form.Control name="title" maxLength={120} defaultValue={version.title ?? ''} autoFocus />
        <Form.Text>With a title it is a keeper: nothing removes it. Leave it empty to take the title away.</Form.Text>
      </Form.Group>
      <Form.Group controlId="title-description" className="mt-3">
        <Form.Label>Description</Form.Label>
        <Form.Control
          as="textarea"
          name="description"
          rows={2}
          maxLength={3900}
          defaultValue={version.description}
          placeholder="What it stands for"
        />
      </Form.Group>
      <Form.Check
        className="mt-3"
        id="title-starting"
        name="starting"
        defaultChecked={version.starting}
        label="A starting state: the file is brought back to it again and again"
      />
    </FormDialog>
  );
}
