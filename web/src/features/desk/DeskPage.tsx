'use client';

/** What a person holds, who asks for it, and the access tokens of their programs. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { AccessToken, Checkout } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Tokens } from '../account/Tokens.tsx';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { Moment } from '../frame/Ago.tsx';
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
  const giveUp = async (those: readonly Checkout[]): Promise<void> => {
    try {
      const files = those.filter(({ line }) => line.isMain).map(({ fileId }) => fileId);
      let givenUp = files.length > 0 ? (await call(api.checkouts.giveUp, { body: { files } })).givenUp : 0;
      for (const { fileId, line } of those.filter((h) => !h.line.isMain))
        givenUp += (await call(api.checkouts.giveUp, { body: { files: [fileId], line: line.id } })).givenUp;
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
          <Button variant="outline-secondary" onClick={() => void giveUp(held.filter((h) => chosen.has(h.line.id)))}>
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
              <tr key={h.line.id} className={chosen.has(h.line.id) ? 'is-chosen' : undefined}>
                <td>
                  <Form.Check
                    checked={chosen.has(h.line.id)}
                    onChange={() => toggle(h.line.id)}
                    aria-label={`Choose ${h.fileName}`}
                  />
                </td>
                <td>
                  <Link href={`/files/${h.fileId}`}>{h.fileName}</Link>
                  {!h.line.isMain && <div className="ov-quiet">on “{h.line.name}”</div>}
                </td>
                <td className="text-nowrap">
                  <Moment at={h.at} />
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
                  <Button variant="link" onClick={() => void giveUp([h])} aria-label={`Give up ${h.fileName}`}>
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
