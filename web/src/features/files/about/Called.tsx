'use client';
/** What a version is called by, each to be copied; its number and title can be asked for in an address, too. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useShown } from '../state/shown.tsx';
import { copied } from './copied.ts';

export function Called(): React.ReactNode {
  const { file, b } = useShown();
  const [said, setSaid] = useState<{ readonly version: string; readonly text: string }>();
  const page = (query: string): string => `${window.location.origin}/files/${file.id}?${query}`;
  const names = [
    { name: 'Name and number', text: () => `${file.name} v${b.number}` },
    ...(b.title === null
      ? []
      : [
          { name: 'Title', text: () => b.title ?? '' },
          { name: 'Link by title', text: () => page(new URLSearchParams({ v: b.title ?? '' }).toString()) },
        ]),
    { name: 'Link', text: () => page(`v=${b.id}`) },
    { name: 'SHA-256', text: () => b.sha256 },
  ];
  const copy = async (text: string): Promise<void> => {
    const isCopied = await copied(text);
    setSaid({ version: b.id, text: isCopied ? `Copied: ${text}` : `The browser does not let this be copied: ${text}` });
  };
  return (
    <section aria-label="What it is called">
      <h2>Copy what it is called</h2>
      <p className="ov-called">
        {names.map(({ name, text }) => (
          <Button key={name} size="sm" variant="outline-secondary" onClick={() => void copy(text())}>
            {name}
          </Button>
        ))}
      </p>
      {said?.version === b.id && (
        <p className="ov-quiet ov-within" role="status">
          {said.text}
        </p>
      )}
    </section>
  );
}
