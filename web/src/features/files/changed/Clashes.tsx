'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Choice, ClashSide, ToldClash } from '@ovrel/core/contract';
import { useKeys } from '../../frame/keys.tsx';
import { useShown } from '../state/shown.tsx';

interface Props {
  readonly clashes: readonly ToldClash[];
  readonly busy: boolean;
  readonly onDecide: (key: string, choice: Choice) => void;
}

/** What both sides did to the same, decided one by one. N and P walk them. */
export function Clashes({ clashes, busy, onDecide }: Props): React.ReactNode {
  const { proposal } = useShown();
  const [at, setAt] = useState(0);
  const step = (by: number): void => {
    const next = (at + by + clashes.length) % clashes.length;
    setAt(next);
    document.getElementById(`clash-${next}`)?.scrollIntoView({ block: 'nearest' });
  };
  useKeys(
    clashes.length
      ? [
          { key: 'n', says: 'Next clash', run: () => step(1) },
          { key: 'p', says: 'Previous clash', run: () => step(-1) },
        ]
      : [],
  );
  if (clashes.length === 0 || !proposal) return null;
  const { asked, onto, source } = proposal;
  const theirs = asked.kind === 'join' ? `“${source.line}” v${source.number}` : `v${source.number}`;
  return (
    <>
      <h2>To be decided</h2>
      <ol className="ov-clashes" aria-label="Clashes">
        {clashes.map((clash, k) => (
          <li key={clash.key} id={`clash-${k}`} aria-current={k === at || undefined}>
            <p>
              <span className="ov-letter">{k + 1}</span> <strong>{nameOf(clash)}</strong>{' '}
              {sayKind(clash, asked.kind === 'join')}
            </p>
            <dl>
              <dt>v{onto.number}</dt>
              <dd>{saySide(clash.ours)}</dd>
              <dt>{theirs}</dt>
              <dd>{saySide(clash.theirs)}</dd>
            </dl>
            {clash.choices.map((choice) => (
              <Form.Check
                key={choice}
                inline
                type="radio"
                id={`clash-${k}-${choice}`}
                name={`clash-${k}`}
                label={choiceWords(choice, `v${onto.number}`, theirs)}
                disabled={busy}
                checked={clash.decided && clash.choice === choice}
                onChange={() => onDecide(clash.key, choice)}
              />
            ))}
          </li>
        ))}
      </ol>
    </>
  );
}

function nameOf({ base, ours, theirs }: ToldClash): string {
  const part = (ours ?? base ?? theirs)?.part;
  if (!part) return 'The file';
  return part.name === part.kind || !part.name ? part.kind : `${part.kind} ${part.name}`;
}

function sayKind({ kind }: ToldClash, joining: boolean): string {
  switch (kind) {
    case 'both-changed':
      return joining ? 'was changed on both sides.' : 'was changed again later.';
    case 'removed-and-changed':
      return joining ? 'is gone here, and was changed there.' : 'is gone by now.';
    case 'changed-and-removed':
      return joining ? 'was changed here, and is gone there.' : 'was changed later; without the change it would go.';
    case 'same-place':
      return 'lies where the other side put something, too.';
    case 'whole-file':
      return 'was changed on both sides, and its parts cannot be told apart.';
  }
}

function saySide(side: ClashSide | null): string {
  if (!side) return 'not there';
  if (side.text !== null) return `“${side.text}”`;
  if (!side.box) return side.part.kind;
  const [x0, y0, x1, y1] = side.box.map((n) => Math.round(n * 100) / 100);
  const where = `at ${x0}, ${y0}`;
  const size = `${Math.round(((x1 ?? 0) - (x0 ?? 0)) * 100) / 100} × ${Math.round(((y1 ?? 0) - (y0 ?? 0)) * 100) / 100}`;
  return `${where}, ${size}`;
}

function choiceWords(choice: Choice, ours: string, theirs: string): string {
  if (choice === 'ours') return `as in ${ours}`;
  return choice === 'theirs' ? `as in ${theirs}` : 'both';
}
