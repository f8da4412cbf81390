'use client';

import Form from 'react-bootstrap/Form';
import type { Member } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { AskDialog } from '../frame/AskDialog.tsx';
import type { Attempt } from '../frame/useAttempt.tsx';

interface Props {
  readonly person: Member;
  readonly attempt: Attempt;
  readonly onClose: () => void;
}

export function GivePasswordDialog({ person, attempt, onClose }: Props): React.ReactNode {
  const { id: personId, name } = person;
  const save = (password: string): Promise<void> =>
    attempt(`${name} signs in with the new password, and changes it then.`, () =>
      call(api.people.setPassword, { personId, body: { password } }),
    );
  return (
    <AskDialog title={`A new password for ${name}`} act="Give it" field="given" save={save} onClose={onClose}>
      <p>Tell it to {name} in person. Their sessions and tokens end now; on signing in they set one of their own.</p>
      <Form.Group controlId="given">
        <Form.Label>Password (ten characters and more)</Form.Label>
        <Form.Control name="given" type="text" required minLength={10} autoComplete="off" autoFocus />
      </Form.Group>
    </AskDialog>
  );
}
