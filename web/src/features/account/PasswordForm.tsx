'use client';

import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { sayMoment } from '../words.ts';
import { told, type Attempt } from '../frame/useAttempt.tsx';

interface Props {
  readonly since: string;
  readonly attempt: Attempt;
}

export function PasswordForm({ since, attempt }: Props): React.ReactNode {
  const router = useRouter();
  const change = async (form: HTMLFormElement): Promise<void> => {
    const body = { own: fieldOf(form, 'own'), password: fieldOf(form, 'password') };
    const done = await told(
      attempt('Your password was changed. Your other sessions and your tokens have ended.', () =>
        call(api.account.setPassword, { body }),
      ),
    );
    if (!done) return;
    form.reset();
    router.refresh();
  };
  return (
    <section aria-labelledby="password-head">
      <h2 id="password-head">Password</h2>
      <p>Set {sayMoment(since)}. When you change it, your other sessions and your access tokens end.</p>
      <Form
        className="row g-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          void change(e.currentTarget);
        }}
      >
        <Form.Group className="col-md-4" controlId="own">
          <Form.Label>Password as it is</Form.Label>
          <Form.Control name="own" type="password" required autoComplete="current-password" />
        </Form.Group>
        <Form.Group className="col-md-4" controlId="password">
          <Form.Label>New password (ten characters and more)</Form.Label>
          <Form.Control name="password" type="password" required minLength={10} autoComplete="new-password" />
        </Form.Group>
        <div className="col-md-4">
          <Button type="submit" variant="outline-secondary">
            Change the password
          </Button>
        </div>
      </Form>
    </section>
  );
}
