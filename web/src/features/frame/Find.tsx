'use client';

import Link from 'next/link';
import { useEffect, useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Found } from '../../contract/api.ts';
import { call } from '../api/client.ts';

/** Finds files by name in all projects. */
export function Find(): React.ReactNode {
  const [words, setWords] = useState('');
  const [found, setFound] = useState<Found>();
  useEffect(() => {
    if (!words.trim()) return undefined;
    let stale = false;
    const timer = setTimeout(() => {
      call<Found>(`/find?q=${encodeURIComponent(words.trim())}`).then(
        (list) => {
          if (!stale) setFound(list);
        },
        () => undefined,
      );
    }, 150);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [words]);
  const close = (): void => {
    setWords('');
    setFound(undefined);
  };
  return (
    <div className="ov-find" role="search" onKeyDown={(e) => e.key === 'Escape' && close()}>
      <Form.Control
        id="find"
        size="sm"
        type="search"
        placeholder="Find a file"
        aria-label="Find a file"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        autoComplete="off"
      />
      {words.trim() && found && (
        <div className="ov-found">
          {found.map((f) => (
            <Link key={f.id} href={`/files/${f.id}`} onClick={close}>
              <span className="ov-cut">{f.name}</span>
              <span className="ov-quiet ov-cut">
                {f.project}, v{f.number}
              </span>
            </Link>
          ))}
          {!found.length && <p className="ov-quiet">No file is called that.</p>}
        </div>
      )}
    </div>
  );
}
