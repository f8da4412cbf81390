'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';
import { api } from '../../contract/operations/index.ts';

export function BringForwardDialog(): React.ReactNode {
  const { b, newest } = useShown();
  const { close, land } = useFileActs();
  // What is shown meanwhile is no matter: it was asked of this version.
  const [version] = useState(b);
  const act = async (form: HTMLFormElement): Promise<void> => {
    const body = { note: fieldOf(form, 'note') };
    const made = await call(api.versions.bringForward, { versionId: version.id, body });
    await land(`v${version.number} was brought forward as v${made.number}. Nothing was removed.`, made);
  };
  return (
    <FormDialog
      id="forward"
      title={`Bring v${version.number} forward`}
      act={`Bring v${version.number} forward as v${newest.number + 1}`}
      save={act}
      onClose={close}
    >
      <p>
        The content of v{version.number} becomes v{newest.number + 1}, the newest version.{' '}
        {newest.number - version.number === 1
          ? `v${newest.number} stays`
          : `v${version.number + 1} to v${newest.number} stay`}{' '}
        in the history and can be brought forward in turn.
      </p>
      <Form.Group controlId="forward-note">
        <Form.Label>Why</Form.Label>
        <Form.Control as="textarea" name="note" rows={3} maxLength={3900} autoFocus />
        <Form.Text>The note begins with “Brought forward from v{version.number}”.</Form.Text>
      </Form.Group>
    </FormDialog>
  );
}
