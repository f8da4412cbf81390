'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import useSWR from 'swr';
import { useKeys } from '../frame/keys.tsx';
import { legend, lookNames, signOf, type Showing } from './looks.ts';
import { LookButtons, StepButtons } from './LookButtons.tsx';
import { TextRow } from './TextRow.tsx';
import { lineRows, withGaps, type TextLine } from './lines.ts';
import { useView } from './state.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

const textLooks: readonly Showing[] = ['overlay', 'side', 'only'];
const noLines: readonly string[] = [];
/** Rows drawn at first; more follow as one scrolls. */
const PAGE = 2000;

const fetchLines = async (path: string): Promise<string[]> => {
  const bytes = new Uint8Array(await (await fetch(path)).arrayBuffer());
  const mark = `${bytes[0] ?? 0} ${bytes[1] ?? 0}`;
  const utf16 = { '255 254': 'utf-16le', '254 255': 'utf-16be' }[mark] ?? 'utf-8';
  const lines = new TextDecoder(utf16).decode(bytes).split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  return lines;
};

const useLines = (versionId: string | undefined): readonly string[] | undefined =>
  useSWR<string[]>(versionId ? linkTo(api.versions.content, { versionId }) : null, fetchLines, {
    revalidateOnFocus: false,
  }).data;

export function TextView(): React.ReactNode {
  const { a, b, comparing, result, listed: shown, selected, look: asked, move, stepChange } = useView();
  const onLook = (look: Showing): void => move({ look });
  const look = textLooks.includes(asked) ? asked : 'overlay';
  const linesB = useLines(b.id);
  const linesA = useLines(comparing ? a.id : undefined);
  const [count, setCount] = useState(PAGE);
  const scroller = useRef<HTMLDivElement>(null);
  const visible = useMemo(() => new Set(shown.map((c) => c.id)), [shown]);
  const rows = useMemo((): readonly TextLine[] => {
    if (!linesB) return [];
    if (comparing && linesA && result) return lineRows(linesA, linesB, result.comparison.changes);
    return linesB.map((_, j) => ({ a: j, b: j }));
  }, [linesA, linesB, comparing, result]);
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
          <LookButtons look={look} looks={textLooks} onLook={onLook} />
          <span className="is-push" />
          {shown.length > 0 && <StepButtons onStep={stepChange} />}
        </div>
      )}
      <div
        className="ov-text"
        role="region"
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
                <TextRow
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
