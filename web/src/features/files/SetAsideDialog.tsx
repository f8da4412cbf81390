'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

/** What is there now becomes a file of its own, and the starting state is the newest again. */
export function SetAsideDialog(): React.ReactNode {
  const { file, b, newest } = useShown();
  const { close, land } = useFileActs();
  const [start] = useState(b);
  const dot = file.name.lastIndexOf('.');
  const act = async (form: HTMLFormElement): Promise<void> => {
    const title = fieldOf(form, 'title');
    if (title) await call(api.versions.title, { versionId: newest.id, body: { title } });
    const body = { name: fieldOf(form, 'name'), reason: fieldOf(form, 'reason') };
    const done = await call(api.versions.setAside, { versionId: start.id, body });
    const { fileId, name, versionId } = done.aside;
    const view = linkTo(api.versions.view, { versionId });
    await land(done.sentence, done.newest, [
      { href: `/files/${fileId}`, says: `Open “${name}”` },
      { href: `${view}?as=document`, says: 'Save it as PDF' },
    ]);
  };
  return (
    <FormDialog
      id="aside"
      title={`Set v${newest.number} aside and start afresh`}
      act="Set aside and start afresh"
      save={act}
      onClose={close}
    >
      <p>
        v{newest.number} becomes a file of its own, and “{start.title}” the newest version here. Both are told in one
        set.
      </p>
      <Form.Group controlId="aside-name">
        <Form.Label>Name of what is set aside</Form.Label>
        <Form.Control
          name="name"
          required
          maxLength={255}
          defaultValue={`${dot > 0 ? file.name.slice(0, dot) : file.name} {date} {number}`}
          autoFocus
        />
        <Form.Text>
          {'{date}'}, {'{time}'} and {'{number}'} are filled in.
        </Form.Text>
      </Form.Group>
      {!newest.title && (
        <Form.Group controlId="aside-version-title" className="mt-2">
          <Form.Label>Title of v{newest.number} (optional)</Form.Label>
          <Form.Control name="title" maxLength={120} placeholder="As given to the harbour office" />
          <Form.Text>With a title it is a keeper in this file, too.</Form.Text>
        </Form.Group>
      )}
      <Form.Group controlId="aside-reason" className="mt-2">
        <Form.Label>Why</Form.Label>
        <Form.Control as="textarea" name="reason" rows={2} maxLength={3900} />
      </Form.Group>
    </FormDialog>
  );
}
