'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Person } from '../../contract/api.ts';
import { call } from '../api/client.ts';
import { Find } from './Find.tsx';
import { useKeys, useShowKeys } from './keys.tsx';
import { api } from '../../contract/operations/index.ts';

export interface Crumb {
  readonly name: string;
  readonly href?: string;
}

export function TopBar({ person, where }: { person: Person; where: readonly Crumb[] }): React.ReactNode {
  const router = useRouter();
  const showKeys = useShowKeys();
  const [, setTheme] = useState(0);
  const switchTheme = (): void => {
    const next = document.documentElement.dataset['bsTheme'] === 'dark' ? 'light' : 'dark';
    document.documentElement.dataset['bsTheme'] = next;
    document.cookie = `ovrel_theme=${next}; path=/; max-age=31536000; samesite=lax`;
    setTheme((n) => n + 1);
  };
  const leave = async (): Promise<void> => {
    await call(api.door.signOut, {}).catch(() => undefined);
    router.replace('/sign-in');
    router.refresh();
  };
  useKeys([
    { key: '/', says: 'Find a file', run: () => document.getElementById('find')?.focus() },
    { key: 't', says: 'Light or dark', run: switchTheme },
  ]);
  return (
    <header className="ov-top">
      <Link href="/" className="ov-mark" aria-label="Ovrel: all projects">
        <svg width="22" height="18" viewBox="0 0 22 18" aria-hidden="true">
          <path d="M1 13h20M4 13V9M11 13V5M18 13V9" stroke="currentColor" strokeWidth="2" fill="none" />
          <path d="M4 7C5 1 17 1 18 7" stroke="currentColor" strokeWidth="1.5" fill="none" />
        </svg>
        <span>Ovrel</span>
      </Link>
      <nav aria-label="Where you are" style={{ flex: 1, minWidth: 0 }}>
        <ol className="ov-where">
          {where.map((c, i) => (
            <li key={i}>{c.href ? <Link href={c.href}>{c.name}</Link> : <span aria-current="page">{c.name}</span>}</li>
          ))}
        </ol>
      </nav>
      <Find />
      <Link href="/desk" className="btn btn-outline-secondary btn-sm">
        Desk
      </Link>
      <Button variant="outline-secondary" size="sm" onClick={showKeys} aria-label="Keys on this page">
        ?
      </Button>
      <Button
        variant="outline-secondary"
        size="sm"
        onClick={switchTheme}
        aria-label="Light or dark"
        title="Light or dark"
      >
        <i className="bi bi-circle-half" aria-hidden="true" />
      </Button>
      <Link
        href="/account"
        className="ov-word ov-cut"
        title={`Your account: ${person.email}, ${person.role}`}
        aria-label={`Account of ${person.name}, ${person.role}`}
      >
        {person.name} <span className="ov-quiet">{person.role}</span>
      </Link>
      <Button variant="outline-secondary" size="sm" onClick={() => void leave()}>
        Sign out
      </Button>
    </header>
  );
}
