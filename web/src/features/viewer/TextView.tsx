'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import useSWR from 'swr';
import { wordRuns, type Run } from '@ovrel/core/words';
import { useKeys } from '../frame/keys.tsx';
import { legend, lookNames, signOf, type Look } from './looks.ts';
import { lineRows, withGaps, type LineRow } from './lines.ts';
import type { ViewerProps } from './Viewer.tsx';

const textLooks: readonly Look[] = ['overlay', 'side', 'only'];
const noLines: readonly string[] = [];
/** Rows drawn at first; more follow as one scrolls. */
const PAGE = 2000;

const fetchLines = async (path: string): Promise<string[]> => {
  const bytes = new Uint8Array(await (await fetch(path)).arrayBuffer());
  const utf16 =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  const lines = new TextDecoder(utf16).decode(bytes).split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  return lines;
};

const useLines = (versionId: string | undefined): readonly string[] | undefined =>
  useSWR<string[]>(versionId ? `/api/v1/versions/${versionId}/content` : null, fetchLines, { revalidateOnFocus: false })
    .data;

export function TextView(props: ViewerProps): React.ReactNode {
  const { a, b, comparing, result, shown, selected, look: asked, onLook, onStepChange } = props;
  const look = textLooks.includes(asked) ? asked : 'overlay';
  const linesB = useLines(b.id);
  const linesA = useLines(comparing ? a.id : undefined);
  const [count, setCount] = useState(PAGE);
  const scroller = useRef<HTMLDivElement>(null);
  const visible = useMemo(() => new Set(shown.map((c) => c.id)), [shown]);
  const rows = useMemo(
    () =>
      linesB
        ? comparing && linesA && result
          ? lineRows(linesA, linesB, result.comparison.changes)
          : linesB.map((_, j): LineRow => ({ a: j, b: j }))
        : [],
    [linesA, linesB, comparing, result],
  );
  const drawn = useMemo(
    () =>
      look === 'only' && comparing ? withGaps(rows, (r) => r.change !== undefined && visible.has(r.change.id)) : rows,
    [rows, look, comparing, visible],
  );
  const at = drawn.findIndex((r) => r !== 'gap' && r.change?.id === selected);
  useEffect(() => {
    scroller.current?.querySelector('.is-current')?.scrollIntoView({ block: 'center' });
  }, [selected, at]);
  useKeys(comparing ? textLooks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => onLook(l) })) : []);
  const a_ = linesA ?? noLines;
  const b_ = linesB ?? noLines;
  return (
    <>
      {comparing && (
        <div className="ov-bar">
          {textLooks.map((l) => (
            <Button
              key={l}
              size="sm"
              variant="outline-secondary"
              active={look === l}
              aria-pressed={look === l}
              onClick={() => onLook(l)}
            >
              {lookNames[l]}
            </Button>
          ))}
          <span className="is-push" />
          {shown.length > 0 && (
            <>
              <Button size="sm" variant="outline-secondary" onClick={() => onStepChange(-1)}>
                Previous change
              </Button>
              <Button size="sm" variant="outline-secondary" onClick={() => onStepChange(1)}>
                Next change
              </Button>
            </>
          )}
        </div>
      )}
      <div
        className="ov-text"
        ref={scroller}
        tabIndex={0}
        aria-label="Lines"
        data-ready={Boolean(linesB)}
        onScroll={(e) => {
          const el = e.currentTarget;
          if (el.scrollTop + el.clientHeight > el.scrollHeight - 600) setCount((n) => Math.min(n + PAGE, drawn.length));
        }}
      >
        <table>
          {look === 'side' && comparing ? (
            <colgroup>
              <col style={{ width: 52 }} />
              <col />
              <col style={{ width: 52 }} />
              <col />
            </colgroup>
          ) : (
            <colgroup>
              {comparing && <col style={{ width: 52 }} />}
              <col style={{ width: 52 }} />
              {comparing && <col style={{ width: 36 }} />}
              <col />
            </colgroup>
          )}
          <tbody>
            {drawn.slice(0, Math.max(count, at + 50)).map((row, k) =>
              row === 'gap' ? (
                <tr key={k} className="is-gap">
                  <td colSpan={4}>…</td>
                </tr>
              ) : (
                <Row
                  key={k}
                  row={row}
                  a={a_}
                  b={b_}
                  comparing={comparing}
                  side={look === 'side'}
                  current={row.change !== undefined && row.change.id === selected}
                  marked={row.change !== undefined && visible.has(row.change.id)}
                />
              ),
            )}
          </tbody>
        </table>
      </div>
      {comparing && (
        <div className="ov-legend" aria-label="Legend">
          {legend
            .filter(([k]) => k !== 'moved')
            .map(([kind, says]) => (
              <span key={kind}>
                <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {says.replace(/,.*/, '')}
              </span>
            ))}
        </div>
      )}
    </>
  );
}

interface RowProps {
  readonly row: LineRow;
  readonly a: readonly string[];
  readonly b: readonly string[];
  readonly comparing: boolean;
  readonly side: boolean;
  readonly current: boolean;
  readonly marked: boolean;
}

function Row({ row, a, b, comparing, side, current, marked }: RowProps): React.ReactNode {
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
      {kind === 'removed' ? sign('−A', 'a') : kind === 'added' ? sign('+B', 'b') : <td className="is-m" />}
      <td className={kind === 'removed' ? 'is-removed' : kind === 'added' ? 'is-added' : undefined}>
        {textB ?? textA}
      </td>
    </tr>
  );
}

function Runs({ runs }: { runs: readonly Run[] }): React.ReactNode {
  return runs.map((r, i) => (r.differs ? <mark key={i}>{r.text}</mark> : <span key={i}>{r.text}</span>));
}
