'use client';

import Form from 'react-bootstrap/Form';
import type { RailColumns } from '../../contract/api.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { useFileActs } from './state/acts.tsx';

type Line = RailColumns['lines'][number];

/** Renames a line, closes it, or opens it again. */
export function LineDialog({ line }: { readonly line: Line }): React.ReactNode {
  const { close, land } = useFileActs();
  const act = async (form: HTMLFormElement): Promise<void> => {
    const closed = new FormData(form).get('closed') !== null;
    const changed = await call(api.lines.change, { lineId: line.id, body: { name: fieldOf(form, 'name'), closed } });
    await land(`The line is called “${changed.name}” and is ${changed.closed ? 'closed' : 'open'}.`, undefined);
  };
  return (
    <FormDialog id="line" title={`The line “${line.name}”`} act="Save" save={act} onClose={close}>
      <Form.Group controlId="line-name">
        <Form.Label>Name</Form.Label>
        <Form.Control name="name" required maxLength={80} defaultValue={line.name} autoFocus />
      </Form.Group>
      <Form.Check
        className="mt-3"
        id="line-closed"
        name="closed"
        defaultChecked={line.closed}
        label="Closed: kept as it is, without new versions"
      />
    </FormDialog>
  );
}
