'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { FileEntry } from '../../contract/api.ts';
import type { DeletedFile } from '../../contract/desk.ts';
import { Said } from '../frame/Said.tsx';
import { Moment } from '../frame/Ago.tsx';
import { BringBackDialog } from './BringBackDialog.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** What was deleted from a project: who, when, why, in which set; and the way back. */
export function DeletedPage({
  projectId,
  name,
  initial,
  mayBringBack,
}: {
  projectId: string;
  name: string;
  initial: readonly DeletedFile[];
  mayBringBack: boolean;
}): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.projects.deleted, { projectId }, { fallbackData: initial });
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [returning, setReturning] = useState<DeletedFile>();
  const back = (made: FileEntry, from: number | undefined): void => {
    setReturning(undefined);
    setSaid({
      problem: false,
      text: `“${made.name}” is back, ${from === undefined ? '' : `with v${from} brought forward as v${made.versions}, and `}with ${made.versions === 1 ? 'its one version' : `all ${made.versions} versions`}.`,
    });
    void mutate();
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Deleted from {name}</h1>
        <Link className="btn btn-outline-secondary" href={`/projects/${projectId}/history`}>
          History
        </Link>
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      {data.length ? (
        <table className="ov-table" aria-label="Deleted files">
          <thead>
            <tr>
              <th>Name</th>
              <th>Versions</th>
              <th>Deleted by</th>
              <th>When</th>
              <th>Why</th>
              <th>Set</th>
              <th aria-label="Acts" />
            </tr>
          </thead>
          <tbody>
            {data.map((f) => (
              <tr key={f.id}>
                <td>
                  <Link href={`/files/${f.id}`}>{f.name}</Link>
                </td>
                <td className="ov-mono">{f.versions}</td>
                <td>{f.by.name}</td>
                <td className="text-nowrap">
                  <Moment at={f.at} />
                </td>
                <td className="is-note">{f.reason}</td>
                <td>
                  <Link href={`/projects/${projectId}/history?set=${f.set}#set-${f.set}`}>set {f.set}</Link>
                </td>
                <td className="is-acts">
                  {mayBringBack && (
                    <Button variant="link" onClick={() => setReturning(f)} aria-label={`Bring ${f.name} back`}>
                      Bring back …
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
            Nothing is deleted here. A file that is deleted leaves the lists, but keeps its versions and can be brought
            back at any of them.
          </p>
        </div>
      )}
      {returning && <BringBackDialog file={returning} onClose={() => setReturning(undefined)} onBack={back} />}
    </main>
  );
}
