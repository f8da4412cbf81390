'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { AccessToken, MadeToken } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { call, filledIn, sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { Said } from '../frame/Said.tsx';
import { sayDate, sayMoment } from '../words.ts';

/** The access tokens of somebody's programs: made, shown once, revoked. */
export function Tokens({ initial }: { initial: readonly AccessToken[] }): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.tokens.list, {}, { fallbackData: initial });
  const [made, setMade] = useState<MadeToken>();
  const [problem, setProblem] = useState<string>();
  const attempt = (work: () => Promise<unknown>): void => {
    setProblem(undefined);
    void work()
      .catch((error: unknown) => setProblem(sentenceOf(error)))
      .then(() => mutate());
  };
  const make = async (form: HTMLFormElement): Promise<void> => {
    setMade(await call(api.tokens.make, { body: filledIn(api.tokens.make.body, new FormData(form)) }));
    form.reset();
  };
  const state = (t: AccessToken): string => {
    if (t.revoked) return 'revoked';
    if (t.expired) return 'expired';
    return `holds until ${sayDate(t.expiresAt)}`;
  };
  return (
    <>
      <h2>Access tokens for programs</h2>
      <p>
        With a token the command line and your own scripts work in your name. Its text is shown once; Ovrel keeps only a
        hash of it.
      </p>
      {problem && <Said problem>{problem}</Said>}
      {made && (
        <Said>
          <p>The token “{made.name}”. Copy it now: it will not be shown again.</p>
          <p className="ov-mono ov-token" data-testid="token">
            {made.token}
          </p>
        </Said>
      )}
      {data.length > 0 && (
        <table className="ov-table mb-3" aria-label="Access tokens">
          <thead>
            <tr>
              <th>Name</th>
              <th>For</th>
              <th>Made</th>
              <th className="is-wide">Last used</th>
              <th>State</th>
              <th aria-label="Acts" />
            </tr>
          </thead>
          <tbody>
            {data.map((t) => (
              <tr key={t.id}>
                <td>{t.name}</td>
                <td>{t.scope === 'desk' ? 'reading, checking out and in' : 'reading'}</td>
                <td className="text-nowrap">{sayMoment(t.madeAt)}</td>
                <td className="is-wide">{t.usedAt ? sayMoment(t.usedAt) : <span className="ov-quiet">never</span>}</td>
                <td>{state(t)}</td>
                <td className="is-acts">
                  {!t.revoked && (
                    <Button
                      variant="link"
                      onClick={() => attempt(() => call(api.tokens.revoke, { tokenId: t.id }))}
                      aria-label={`Revoke ${t.name}`}
                    >
                      Revoke
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Form
        className="row g-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          const form = e.currentTarget;
          attempt(() => make(form));
        }}
      >
        <Form.Group className="col-md-4" controlId="token-name">
          <Form.Label>Name</Form.Label>
          <Form.Control name="name" required maxLength={100} placeholder="what it is for" autoComplete="off" />
        </Form.Group>
        <Form.Group className="col-md-3" controlId="token-scope">
          <Form.Label>For</Form.Label>
          <Form.Select name="scope" defaultValue="desk">
            <option value="read">reading</option>
            <option value="desk">reading, checking out and in</option>
          </Form.Select>
        </Form.Group>
        <Form.Group className="col-md-2" controlId="token-days">
          <Form.Label>Holds for</Form.Label>
          <Form.Select name="days" defaultValue="30">
            <option value="1">a day</option>
            <option value="30">30 days</option>
            <option value="365">a year</option>
          </Form.Select>
        </Form.Group>
        <div className="col-md-2">
          <Button type="submit" variant="outline-secondary">
            Make a token
          </Button>
        </div>
      </Form>
    </>
  );
}
