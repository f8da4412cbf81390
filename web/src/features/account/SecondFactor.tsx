'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Account, BegunSecondFactor } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { sayDate } from '../words.ts';
import { told, type Attempt } from '../frame/useAttempt.tsx';

interface Props {
  readonly state: Account['secondFactor'];
  readonly attempt: Attempt;
}

/** A code of an authenticator app beside the password: set up in two steps, ended in one. */
export function SecondFactor({ state, attempt }: Props): React.ReactNode {
  const [begun, setBegun] = useState<BegunSecondFactor>();
  const [codes, setCodes] = useState<readonly string[]>();
  const begin = async (own: string): Promise<void> => {
    await told(
      attempt('Now take the picture with your authenticator app.', async () => {
        setBegun(await call(api.account.beginSecondFactor, { body: { own } }));
      }),
    );
  };
  const confirm = async (code: string): Promise<void> => {
    await told(
      attempt('The second factor is set up.', async () => {
        setCodes((await call(api.account.confirmSecondFactor, { body: { code } })).codes);
        setBegun(undefined);
      }),
    );
  };
  const end = async (own: string): Promise<void> => {
    const ended = await told(
      attempt('You sign in with your password alone again.', () =>
        call(api.account.endSecondFactor, { body: { own } }),
      ),
    );
    if (ended) setCodes(undefined);
  };
  return (
    <section aria-labelledby="factor-head">
      <h2 id="factor-head">Second factor</h2>
      {codes && <RecoveryCodes codes={codes} />}
      {begun && <Confirm begun={begun} onCode={(code) => void confirm(code)} />}
      {!begun && state && (
        <>
          <p>
            Since {sayDate(state.since)} signing in takes a code of your authenticator app, too.{' '}
            {sayCodes(state.codesLeft)}
          </p>
          <WithPassword act="End the second factor" onPassword={(own) => void end(own)} />
        </>
      )}
      {!begun && !state && (
        <>
          <p>
            With an authenticator app on your phone, signing in takes a code that changes every half minute: a password
            alone lets nobody in.
          </p>
          <WithPassword act="Set it up" onPassword={(own) => void begin(own)} />
        </>
      )}
    </section>
  );
}

const sayCodes = (left: number): string => {
  if (left === 0) return 'No recovery code is left: end it and set it up anew.';
  return left === 1 ? 'One recovery code is left.' : `${left} recovery codes are left.`;
};

function WithPassword({ act, onPassword }: { act: string; onPassword: (own: string) => void }): React.ReactNode {
  return (
    <Form
      className="row g-2 align-items-end mb-3"
      onSubmit={(e) => {
        e.preventDefault();
        onPassword(fieldOf(e.currentTarget, 'factor-own'));
        e.currentTarget.reset();
      }}
    >
      <Form.Group className="col-md-4" controlId="factor-own">
        <Form.Label>Your password</Form.Label>
        <Form.Control name="factor-own" type="password" required autoComplete="current-password" />
      </Form.Group>
      <div className="col-md-4">
        <Button type="submit" variant="outline-secondary">
          {act}
        </Button>
      </div>
    </Form>
  );
}

function Confirm({ begun, onCode }: { begun: BegunSecondFactor; onCode: (code: string) => void }): React.ReactNode {
  return (
    <div className="ov-factor mb-3">
      <img src={begun.picture} width={180} height={180} alt="QR code for your authenticator app" />
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          onCode(fieldOf(e.currentTarget, 'code'));
        }}
      >
        <p>
          Take this picture with your authenticator app, or type this there:{' '}
          <span className="ov-mono ov-secret" data-testid="secret">
            {begun.secret}
          </span>
        </p>
        <Form.Group controlId="code" className="mb-2">
          <Form.Label>The code that it shows</Form.Label>
          <Form.Control
            name="code"
            required
            inputMode="numeric"
            autoComplete="one-time-code"
            minLength={6}
            maxLength={8}
            autoFocus
          />
        </Form.Group>
        <Button type="submit">Confirm</Button>
      </Form>
    </div>
  );
}

const RecoveryCodes = ({ codes }: { codes: readonly string[] }): React.ReactNode => (
  <Said>
    <p>
      Recovery codes: each opens once, should your phone be lost. Print them or write them down now; they will not be
      shown again.
    </p>
    <ul className="ov-mono ov-codes" aria-label="Recovery codes">
      {codes.map((code) => (
        <li key={code}>{code}</li>
      ))}
    </ul>
  </Said>
);
