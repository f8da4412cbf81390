'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { FileEntry, Version, VersionDetail } from '../../contract/api.ts';
import { Said } from '../frame/Said.tsx';
import { sayAgo, sayMoment, saySize } from '../words.ts';
import { TitleBlocks } from './TitleBlocks.tsx';
import type { Message } from './FilePage.tsx';

interface Props {
  readonly file: FileEntry;
  readonly holder: React.ReactNode;
  readonly references: React.ReactNode;
  readonly comments: React.ReactNode;
  readonly version: Version;
  readonly newest: Version;
  readonly detail: VersionDetail | undefined;
  readonly message: Message | undefined;
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
  readonly onNewest: () => void;
  readonly onCompareBefore: () => void;
  readonly onCompareNewest: () => void;
  readonly onCompareWith: () => void;
  /** Why what the address asks to compare with is not shown. */
  readonly problem: string | undefined;
  readonly onCheckIn: () => void;
  readonly onBringForward: () => void;
  /** Takes the file out, with this version's content to go on from. */
  readonly onContinue: () => void;
}

const kindWords = { 'check-in': 'Check-in', autosave: 'Autosave', backup: 'Backup' } as const;

export function About(p: Props): React.ReactNode {
  const { version: v, newest, detail } = p;
  const older = v.id !== newest.id;
  const look = detail?.id === v.id ? detail.look : undefined;
  return (
    <section className="ov-about" aria-label="About this version">
      {p.message && <Said problem={p.message.problem}>{p.message.text}</Said>}
      {p.problem !== undefined && <Said problem>{p.problem}</Said>}
      <h1>{p.file.name}</h1>
      {p.file.deletedIn && (
        <div className="ov-older" role="note">
          This file is deleted. Its versions are all here.{' '}
          <Link href={`/projects/${p.file.projectId}/deleted`}>See who deleted it, and bring it back</Link>
        </div>
      )}
      <p>
        <span className="ov-mono">v{v.number}</span> {v.title ? <strong>{v.title}</strong> : kindWords[v.kind]}
        {older ? '' : ', the newest version'}
      </p>
      {older && (
        <div className="ov-older">
          This is not the newest version.{' '}
          <Button variant="link" className="p-0 align-baseline" onClick={p.onNewest}>
            Go to v{newest.number}, the newest
          </Button>
        </div>
      )}
      <h2>Why</h2>
      <p className="ov-note">{v.note || <span className="ov-quiet">No note was written.</span>}</p>
      <h2>Who and when</h2>
      <p>{v.by.name}</p>
      <p title="Coordinated Universal Time">
        {sayMoment(v.at)}{' '}
        <span className="ov-quiet" suppressHydrationWarning>
          {sayAgo(v.at)}
        </span>
      </p>
      <h2>What changed</h2>
      <p>
        {v.number === 1
          ? 'The first version: nothing to compare with.'
          : (v.summary ?? 'Being compared with the version before …')}
      </p>
      <div className="ov-acts">
        {p.mayCheckIn && (
          <Button onClick={p.onCheckIn} variant={older ? 'outline-secondary' : 'primary'}>
            Check in a new version
          </Button>
        )}
        {older && p.mayBringForward && <Button onClick={p.onBringForward}>Bring v{v.number} forward</Button>}
        {older && p.mayCheckIn && (
          <Button variant="outline-secondary" onClick={p.onContinue}>
            Check out and go on from v{v.number}
          </Button>
        )}
        {v.number > 1 && (
          <Button variant="outline-secondary" onClick={p.onCompareBefore}>
            Compare with v{v.number - 1}, the one before
          </Button>
        )}
        {older && (
          <Button variant="outline-secondary" onClick={p.onCompareNewest}>
            Compare with v{newest.number}, the newest
          </Button>
        )}
        <Button variant="outline-secondary" onClick={p.onCompareWith} title="Key o">
          Compare with another file …
        </Button>
        <Link
          className="btn btn-outline-secondary"
          href={`/projects/${p.file.projectId}/history?set=${v.set}#set-${v.set}`}
        >
          Set {v.set}: what came together
        </Link>
        <Link className="btn btn-outline-secondary" href={`/files/${p.file.id}/history`}>
          History of the file
        </Link>
        <a className="btn btn-outline-secondary" href={`/api/v1/versions/${v.id}/content`} download>
          Download v{v.number}, {saySize(v.size)}
        </a>
      </div>
      {p.holder}
      {p.comments}
      {p.references}
      {look?.problem && (
        <div className="ov-older" role="note">
          <strong>Kept, but not readable part by part.</strong> {look.problem}
        </div>
      )}
      <h2>Content</h2>
      <dl className="ov-facts">
        <dt>Kind</dt>
        <dd>{look?.formatTitle ?? v.format ?? 'unknown kind'}</dd>
        {look?.level === 'parts' && (
          <>
            <dt>Parts</dt>
            <dd>{look.parts.toLocaleString('en')}</dd>
          </>
        )}
        {look?.level === 'text' && (
          <>
            <dt>Lines</dt>
            <dd>{look.lines.toLocaleString('en')}</dd>
          </>
        )}
        {look?.picture && (
          <>
            <dt>Pixels</dt>
            <dd>
              {look.picture.width} × {look.picture.height} px, {look.picture.depth} bits a channel
              {look.picture.transparent ? ', transparent' : ''}
            </dd>
            <dt>Resolution</dt>
            <dd>{look.picture.density ? `${Math.round(look.picture.density * 10) / 10} dpi` : 'not given'}</dd>
            <dt>Colours</dt>
            <dd>
              {look.picture.colours}, profile {look.picture.profile ?? 'none'}
            </dd>
          </>
        )}
        {look?.page && (!look.picture || look.page.unitMillimetres) && (
          <>
            <dt>Page</dt>
            <dd>{sayPage(look.page)}</dd>
          </>
        )}
        {look?.formatVersion && (
          <>
            <dt>Version of the format</dt>
            <dd>{look.formatVersion}</dd>
          </>
        )}
        {look?.program && (
          <>
            <dt>Written by</dt>
            <dd>{look.program}</dd>
          </>
        )}
        <dt>Size</dt>
        <dd>{v.size.toLocaleString('en')} bytes</dd>
        <dt>SHA-256</dt>
        <dd className="ov-mono ov-cut" title={v.sha256}>
          {v.sha256.slice(0, 16)}…
        </dd>
      </dl>
      {look && <TitleBlocks blocks={look.titleBlocks} />}
      {look && look.notes.length > 0 && (
        <>
          <h2>Good to know</h2>
          <ul>
            {look.notes.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function sayPage({ box, unitMillimetres }: NonNullable<VersionDetail['look']['page']>): string {
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = box;
  const factor = unitMillimetres ?? 1;
  const n = (value: number): string => String(Math.round(value * factor * 10) / 10);
  return `${n(x1 - x0)} × ${n(y1 - y0)} ${unitMillimetres ? 'mm' : 'units'}`;
}
