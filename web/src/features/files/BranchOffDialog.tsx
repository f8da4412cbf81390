'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

/** From a version, a line of its own in the file, or a file of its own. */
export function BranchOffDialog(): React.ReactNode {
  const router = useRouter();
  const { file, b } = useShown();
  const { close, land } = useFileActs();
  // What is shown meanwhile is no matter: it was asked of this version.
  const [version] = useState(b);
  const [asFile, setAsFile] = useState(false);
  const act = async (form: HTMLFormElement): Promise<void> => {
    const [name, reason] = [fieldOf(form, 'name'), fieldOf(form, 'reason')];
    if (asFile) {
      const history = new FormData(form).get('history') !== null;
      const body = { name, reason, history };
      const made = await call(api.lines.branchFile, { versionId: version.id, body });
      close();
      router.push(`/files/${made.fileId}`);
      return;
    }
    const made = await call(api.lines.start, { versionId: version.id, body: { name, reason } });
    await land(`“${name}” starts from v${version.number}. Check in on it, and join it back when it is good.`, made);
  };
  return (
    <FormDialog id="branch" title={`Branch off from v${version.number}`} act="Branch off" save={act} onClose={close}>
      <Form.Check
        type="radio"
        id="branch-line"
        name="as"
        label="As a line of this file, beside the main line"
        checked={!asFile}
        onChange={() => setAsFile(false)}
      />
      <Form.Check
        type="radio"
        id="branch-file"
        name="as"
        label="As a file of its own, in the same folder"
        checked={asFile}
        onChange={() => setAsFile(true)}
      />
      <Form.Group controlId="branch-name" className="mt-3">
        <Form.Label>Name</Form.Label>
        <Form.Control
          key={String(asFile)}
          name="name"
          required
          maxLength={asFile ? 255 : 80}
          defaultValue={asFile ? besides(file.name, version.number) : ''}
          autoFocus
        />
      </Form.Group>
      <Form.Group controlId="branch-reason" className="mt-2">
        <Form.Label>Why</Form.Label>
        <Form.Control as="textarea" name="reason" rows={2} maxLength={3900} />
      </Form.Group>
      {asFile && version.number > 1 && (
        <Form.Check
          className="mt-2"
          id="branch-history"
          name="history"
          label={`With the versions before it, back to the first`}
        />
      )}
      <p className="ov-quiet mt-2 mb-0">v{version.number} and all others stay as they are.</p>
    </FormDialog>
  );
}

/** "landing-plan from v5.svg" */
function besides(name: string, number: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)} from v${number}${name.slice(dot)}` : `${name} from v${number}`;
}
