'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Version } from '../../contract/api.ts';
import { Said } from '../frame/Said.tsx';
import { fieldOf } from '../frame/form.ts';

/** Asks for the password of a locked document, over the viewer. */
export function UnlockForm({
  versions,
  onGive,
}: {
  versions: readonly Version[];
  onGive: (version: Version, password: string) => Promise<string | undefined>;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [first] = versions;
  if (!first) return null;
  const send = async (event: React.SyntheticEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const password = fieldOf(event.currentTarget, 'password');
    setBusy(true);
    // One password often opens several versions.
    const said = await Promise.all(versions.map((v) => onGive(v, password)));
    setBusy(false);
    setProblem(said.every((s) => s !== undefined) ? said[0] : undefined);
  };
  return (
    <div className="ov-waiting">
      <div>
        <form className="ov-unlock" onSubmit={(event) => void send(event)} aria-label="Open the locked document">
          <strong>
            {versions.map((v) => `v${v.number}`).join(' and ')} {versions.length > 1 ? 'are' : 'is'} locked with a
            password
          </strong>
          <p className="ov-quiet mb-2">It is used while this page is open, and kept nowhere.</p>
          {problem && <Said problem>{problem}</Said>}
          <Form.Control
            name="password"
            type="password"
            aria-label="Password of the document"
            autoComplete="off"
            required
            autoFocus
          />
          <Button type="submit" className="mt-2" disabled={busy}>
            Open it
          </Button>
        </form>
      </div>
    </div>
  );
}
