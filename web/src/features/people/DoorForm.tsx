'use client';

/** The two ways in: signing in, and making the first administrator. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { call, filledIn, Refused, sentenceOf } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';
import { Said } from '../frame/Said.tsx';

export function DoorForm({ first }: { first: boolean }): React.ReactNode {
  const router = useRouter();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  // The password was right, and a second factor is asked for.
  const [wantsCode, setWantsCode] = useState(false);
  const enter = async (data: FormData): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const { makeFirstAdministrator, signIn } = api.door;
      if (first) await call(makeFirstAdministrator, { body: filledIn(makeFirstAdministrator.body, data) });
      else await call(signIn, { body: filledIn(signIn.body, data) });
      router.replace('/');
      router.refresh();
    } catch (error) {
      const isAsking = error instanceof Refused && error.code === 'second-factor';
      if (isAsking) setWantsCode(true);
      else setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <main className="ov-door">
      <h1>{first ? 'Ovrel is new here' : 'Sign in to Ovrel'}</h1>
      {first && <p>Make the first administrator. Further people can be added afterwards.</p>}
      {problem && <Said problem>{problem}</Said>}
      {/* Sent before the page is awake, a password must not come to stand in the address. */}
      <Form
        method="post"
        onSubmit={(e) => {
          e.preventDefault();
          void enter(new FormData(e.currentTarget));
        }}
      >
        {first && (
          <Form.Group className="mb-3" controlId="name">
            <Form.Label>Your name</Form.Label>
            <Form.Control name="name" required maxLength={100} autoComplete="name" autoFocus />
          </Form.Group>
        )}
        <Form.Group className="mb-3" controlId="email">
          <Form.Label>E-mail address</Form.Label>
          <Form.Control name="email" type="email" required autoComplete="username" autoFocus={!first} />
        </Form.Group>
        <Form.Group className="mb-3" controlId="password">
          <Form.Label>Password</Form.Label>
          <Form.Control
            name="password"
            type="password"
            required
            autoComplete={first ? 'new-password' : 'current-password'}
            {...(first ? { minLength: 10 } : {})}
          />
          {first && <Form.Text>At least ten characters.</Form.Text>}
        </Form.Group>
        {wantsCode && (
          <Form.Group className="mb-3" controlId="code">
            <Form.Label>Code</Form.Label>
            <Form.Control name="code" required autoComplete="one-time-code" maxLength={40} autoFocus />
            <Form.Text>The six digits of your authenticator app, or one of your recovery codes.</Form.Text>
          </Form.Group>
        )}
        <Button type="submit" disabled={busy} className="w-100">
          {first ? 'Make administrator and sign in' : 'Sign in'}
        </Button>
      </Form>
    </main>
  );
}
