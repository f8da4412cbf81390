'use client';

/** What a person holds, who asks for it, and the access tokens of their programs. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { AccessToken, Checkout, MadeToken } from '../../contract/desk.ts';
import { call, filledIn, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { sayAgo, sayDate, sayMoment } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

export function DeskPage({
  initial,
  initialTokens,
}: {
  initial: readonly Checkout[];
  initialTokens: readonly AccessToken[];
}): React.ReactNode {
  const { data: held = initial, mutate } = useAnswer(
    api.checkouts.list,
    { query: { mine: 'yes' } },
    { fallbackData: initial },
  );
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  useLive({}, (event) => {
    if (!event || event.kind === 'checkout' || event.kind === 'version') void mutate();
  });
  const giveUp = async (files: readonly string[]): Promise<void> => {
    try {
      const { givenUp } = await call(api.checkouts.giveUp, { body: { files } });
      setSaid({
        problem: false,
        text: `${givenUp === 1 ? 'One check-out was' : `${givenUp} check-outs were`} given up. What you changed on your own computer is still there.`,
      });
      setChosen(new Set());
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
    await mutate();
  };
  const toggle = (id: string): void =>
    setChosen((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Desk</h1>
        {chosen.size > 0 && (
          <Button variant="outline-secondary" onClick={() => void giveUp([...chosen])}>
            Give up {chosen.size} chosen
          </Button>
        )}
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <h2>Checked out by you</h2>
      {held.length ? (
        <table className="ov-table mb-4" aria-label="Checked out by you">
          <thead>
            <tr>
              <th aria-label="Choose" />
              <th>File</th>
              <th>Since</th>
              <th className="is-wide">Where</th>
              <th>From</th>
              <th>Who asks for it</th>
              <th aria-label="Acts" />
            </tr>
          </thead>
          <tbody>
            {held.map((h) => (
              <tr key={h.fileId} className={chosen.has(h.fileId) ? 'is-chosen' : undefined}>
                <td>
                  <Form.Check
                    checked={chosen.has(h.fileId)}
                    onChange={() => toggle(h.fileId)}
                    aria-label={`Choose ${h.fileName}`}
                  />
                </td>
                <td>
                  <Link href={`/files/${h.fileId}`}>{h.fileName}</Link>
                </td>
                <td className="text-nowrap">
                  {sayMoment(h.at)}{' '}
                  <span className="ov-quiet" suppressHydrationWarning>
                    {sayAgo(h.at)}
                  </span>
                </td>
                <td className="is-wide">{h.desk || <span className="ov-quiet">not said</span>}</td>
                <td className="ov-mono">v{h.number}</td>
                <td>
                  {h.requests.length ? (
                    h.requests.map((r) => (
                      <div key={r.by.id}>
                        <strong>{r.by.name}</strong>: “{r.reason}”
                      </div>
                    ))
                  ) : (
                    <span className="ov-quiet">nobody</span>
                  )}
                </td>
                <td className="is-acts">
                  <Button variant="link" onClick={() => void giveUp([h.fileId])} aria-label={`Give up ${h.fileName}`}>
                    Give up
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <div className="ov-empty mb-4">
          <p>
            You hold no file. Check one out on its page, or several at once in a project: then nobody else can add
            versions until you give them back.
          </p>
          <Link href="/" className="btn btn-primary">
            Go to the projects
          </Link>
        </div>
      )}
      <Tokens initial={initialTokens} />
    </main>
  );
}

function Tokens({ initial }: { initial: readonly AccessToken[] }): React.ReactNode {
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
