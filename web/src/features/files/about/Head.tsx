'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import { Said } from '../../frame/Said.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

const kindWords = { 'check-in': 'Check-in', autosave: 'Autosave', backup: 'Backup' } as const;

/** Which version it is, and what was just done. */
export function Head(): React.ReactNode {
  const { file, b, newest, otherProblem, move } = useShown();
  const { message } = useFileActs();
  const older = b.id !== newest.id;
  return (
    <>
      {message && (
        <Said problem={message.problem}>
          {message.text}{' '}
          {message.links?.map(({ href, says }) => (
            <a key={href} className="me-2" href={href}>
              {says}
            </a>
          ))}
        </Said>
      )}
      {otherProblem !== undefined && <Said problem>{otherProblem}</Said>}
      <h1>{file.name}</h1>
      {file.deletedIn && (
        <div className="ov-older" role="note">
          This file is deleted. Its versions are all here.{' '}
          <Link href={`/projects/${file.projectId}/deleted`}>See who deleted it, and bring it back</Link>
        </div>
      )}
      <p>
        <span className="ov-mono">v{b.number}</span> {b.title ? <strong>{b.title}</strong> : kindWords[b.kind]}
        {b.starting ? ', a starting state' : ''}
        {older ? '' : ', the newest version'}
      </p>
      {b.description && <p className="ov-note">{b.description}</p>}
      {older && (
        <div className="ov-older">
          This is not the newest version.{' '}
          <Button variant="link" className="p-0 align-baseline" onClick={() => move({ a: newest.id, b: newest.id })}>
            Go to v{newest.number}, the newest
          </Button>
        </div>
      )}
    </>
  );
}
