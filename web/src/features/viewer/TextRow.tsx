'use client';

import { wordRuns, type Run } from '@ovrel/core/words';
import type { TextLine } from './lines.ts';

interface RowProps {
  readonly row: TextLine;
  readonly a: readonly string[];
  readonly b: readonly string[];
  readonly comparing: boolean;
  readonly side: boolean;
  readonly current: boolean;
  readonly marked: boolean;
}

/** One line of a text, or of two: its number, a sign for what was done to it, and the words that differ. */
export function TextRow({ row, a, b, comparing, side, current, marked }: RowProps): React.ReactNode {
  const kind = marked ? row.change?.kind : undefined;
  const textA = row.a === undefined ? undefined : a[row.a];
  const textB = row.b === undefined ? undefined : b[row.b];
  const runs = kind === 'changed' && textA !== undefined && textB !== undefined ? wordRuns(textA, textB) : undefined;
  const name = current ? 'is-current' : undefined;
  const number = (n: number | undefined): React.ReactNode => <td className="is-n">{n === undefined ? '' : n + 1}</td>;
  const sign = (text: string, colour: string): React.ReactNode => (
    <td className="is-m" style={{ color: `var(--ov-${colour})` }}>
      {text}
    </td>
  );
  if (!comparing)
    return (
      <tr>
        {number(row.b)}
        <td>{textB}</td>
      </tr>
    );
  if (side) {
    return (
      <tr className={name}>
        {number(row.a)}
        <td className={kind === 'removed' || kind === 'changed' ? 'is-removed' : undefined}>
          {runs ? <Runs runs={runs.a} /> : textA}
        </td>
        {number(row.b)}
        <td className={kind === 'added' || kind === 'changed' ? 'is-added' : undefined}>
          {runs ? <Runs runs={runs.b} /> : textB}
        </td>
      </tr>
    );
  }
  if (runs) {
    return (
      <>
        <tr className={name}>
          {number(row.a)}
          {number(undefined)}
          {sign('~A', 'a')}
          <td className="is-removed">
            <Runs runs={runs.a} />
          </td>
        </tr>
        <tr className={name}>
          {number(undefined)}
          {number(row.b)}
          {sign('~B', 'b')}
          <td className="is-added">
            <Runs runs={runs.b} />
          </td>
        </tr>
      </>
    );
  }
  return (
    <tr className={name}>
      {number(row.a)}
      {number(row.b)}
      {kind === 'removed' && sign('−A', 'a')}
      {kind === 'added' && sign('+B', 'b')}
      {kind !== 'removed' && kind !== 'added' && <td className="is-m" />}
      <td className={kind === 'removed' || kind === 'added' ? `is-${kind}` : undefined}>{textB ?? textA}</td>
    </tr>
  );
}

function Runs({ runs }: { runs: readonly Run[] }): React.ReactNode {
  return runs.map((r, i) => (r.differs ? <mark key={i}>{r.text}</mark> : <span key={i}>{r.text}</span>));
}
