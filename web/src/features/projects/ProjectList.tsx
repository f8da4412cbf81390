'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Project } from '../../contract/api.ts';
import { call } from '../api/client.ts';
import { useKeys } from '../frame/keys.tsx';
import { sayAgo, sayMoment } from '../words.ts';
import { Mentions } from '../comments/Mentions.tsx';
import { NameDialog, type NameQuestion } from './NameDialog.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

interface Props {
  readonly initial: readonly Project[];
  readonly mayMake: boolean;
  /** Guests see projects that are opened to them, and nothing of the whole. */
  readonly mayLook: boolean;
  readonly mayManagePeople: boolean;
}

export function ProjectList({ initial, mayMake, mayLook, mayManagePeople }: Props): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.projects.list, {}, { fallbackData: initial });
  const [question, setQuestion] = useState<NameQuestion>();
  const ask = (): void =>
    setQuestion({
      title: 'New project',
      act: 'Make project',
      value: '',
      save: async (name) => {
        await call(api.projects.make, { body: { name } });
        await mutate();
      },
    });
  const rename = (p: Project): void =>
    setQuestion({
      title: `Rename “${p.name}”`,
      act: 'Rename',
      value: p.name,
      save: async (name) => {
        await call(api.projects.change, { projectId: p.id, body: { name } });
        await mutate();
      },
    });
  useKeys(mayMake ? [{ key: 'n', says: 'New project', run: ask }] : []);
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Projects</h1>
        {mayLook && (
          <Link href="/ledger" className="btn btn-outline-secondary">
            Ledger
          </Link>
        )}
        {mayLook && (
          <Link href="/storage" className="btn btn-outline-secondary">
            Storage
          </Link>
        )}
        {mayManagePeople && (
          <Link href="/people" className="btn btn-outline-secondary">
            People
          </Link>
        )}
        {mayMake && <Button onClick={ask}>New project</Button>}
      </div>
      <Mentions />
      {data.length ? (
        <table className="ov-table">
          <thead>
            <tr>
              <th>Name</th>
              <th>Files</th>
              <th>Newest version</th>
              <th className="is-wide">Made by</th>
              <th aria-label="Acts" />
            </tr>
          </thead>
          <tbody>
            {data.map((p) => (
              <tr key={p.id}>
                <td>
                  <Link href={`/projects/${p.id}`}>{p.name}</Link>
                </td>
                <td className="ov-mono">{p.files}</td>
                <td>
                  {p.changedAt ? (
                    <>
                      {sayMoment(p.changedAt)}{' '}
                      <span className="ov-quiet" suppressHydrationWarning>
                        {sayAgo(p.changedAt)}
                      </span>
                    </>
                  ) : (
                    <span className="ov-quiet">nothing checked in yet</span>
                  )}
                </td>
                <td className="is-wide">{p.createdBy.name}</td>
                <td className="is-acts">
                  {mayMake && (
                    <Button variant="link" onClick={() => rename(p)}>
                      Rename
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <div className="ov-empty">
          <p>
            {mayLook
              ? 'There is no project yet. A project holds the folders and files of one piece of work.'
              : 'Nothing is open to you yet. Whoever invited you can open a project or a folder to you.'}
          </p>
          {mayMake ? (
            <Button onClick={ask}>Make the first project</Button>
          ) : (
            mayLook && <p>A lead or an administrator can make one.</p>
          )}
        </div>
      )}
      {question && <NameDialog question={question} onClose={() => setQuestion(undefined)} />}
    </main>
  );
}
