'use client';

import { useEffect, useRef, useState } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { columnName, type Line } from '@ovrel/core/table';
import { TableCell } from './TableCell.tsx';
import type { ChangesOfGrid, GridSheet } from './grid.ts';
import { stepped } from './moving.ts';

const ROW = 26;
const HEAD = 28;
const SIDE = 76;
/** Pixels of a letter, and of columns that say nothing of their width. */
const [LETTER, USUAL] = [7.4, 104];
const [NARROWEST, WIDEST] = [56, 420];

export interface Spot {
  readonly row: number;
  readonly column: number;
}

interface Props {
  readonly sheet: GridSheet;
  /** Places in the rows of the sheet that are shown. */
  readonly shown: readonly number[];
  readonly changes: ChangesOfGrid;
  readonly side: 'both' | 'a' | 'b';
  readonly comparing: boolean;
  readonly formulas: boolean;
  readonly selected: string | undefined;
  readonly spot: Spot;
  readonly onSpot: (spot: Spot) => void;
  readonly onChange: (id: string) => void;
  readonly label: string;
  /** Where another grid was scrolled to, that goes along with this one. */
  readonly follows?: React.RefObject<HTMLDivElement | null>;
  readonly own?: React.RefObject<HTMLDivElement | null>;
}

/** A grid of which only what is seen is drawn. */
export function TableGrid(props: Props): React.ReactNode {
  const { sheet, shown, changes, side, comparing, formulas, selected, spot, onSpot, onChange, label, follows, own } =
    props;
  const inner = useRef<HTMLDivElement>(null);
  const scroller = own ?? inner;
  const [hasFocus, setFocus] = useState(false);
  // eslint-disable-next-line react-hooks/incompatible-library -- what it gives is used here, and handed to nobody
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollPaddingStart: HEAD,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: sheet.columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: (k) => widthOf(sheet, sheet.columns[k]),
    overscan: 4,
    scrollPaddingStart: SIDE,
  });
  const at = shown.indexOf(spot.row);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
    columns.scrollToIndex(spot.column);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- it scrolls when the place changes, not when the drawn rows do
  }, [at, spot.column]);
  useEffect(() => {
    if (hasFocus) scroller.current?.querySelector<HTMLElement>('[data-spot="true"]')?.focus({ preventScroll: true });
  });
  const onKeyDown = (event: React.KeyboardEvent): void => {
    const next = stepped(event.key, { at, column: spot.column }, { rows: shown.length, columns: sheet.columns.length });
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    onSpot({ row: shown[next.at] ?? 0, column: next.column });
  };
  const onScroll = (): void => {
    const [mine, other] = [scroller.current, follows?.current];
    if (mine && other && (other.scrollTop !== mine.scrollTop || other.scrollLeft !== mine.scrollLeft))
      other.scrollTo({ top: mine.scrollTop, left: mine.scrollLeft });
  };
  return (
    <div
      className="ov-grid"
      role="grid"
      aria-label={label}
      aria-rowcount={shown.length + 1}
      aria-colcount={sheet.columns.length + 1}
      ref={scroller}
      onKeyDown={onKeyDown}
      onScroll={onScroll}
      onFocus={() => setFocus(true)}
      onBlur={() => setFocus(false)}
    >
      <div style={{ height: HEAD + rows.getTotalSize(), width: SIDE + columns.getTotalSize() }}>
        <div className="ov-grid-head" role="row" aria-rowindex={1} style={{ height: HEAD }}>
          <div className="ov-grid-corner" role="columnheader" style={{ width: SIDE, height: HEAD }}>
            <span className="visually-hidden">Row</span>
          </div>
          {columns.getVirtualItems().map(({ index, start, size }) => {
            const line = sheet.columns[index];
            if (!line) return null;
            const change = changes.ofColumn(sheet, line);
            return (
              <div
                key={index}
                role="columnheader"
                aria-colindex={index + 2}
                className={lineClass(line, comparing, change?.kind)}
                style={{ left: SIDE + start, width: size, height: HEAD }}
              >
                {nameOf(line, side, columnName)}
                {comparing && signOf(line, change?.kind) && (
                  <span className="ov-grid-sign"> {signOf(line, change?.kind)}</span>
                )}
              </div>
            );
          })}
        </div>
        {rows.getVirtualItems().map(({ index, start }) => {
          const row = sheet.rows[shown[index] ?? -1];
          if (!row) return null;
          const ofRow = changes.ofRow(sheet, row);
          return (
            <div
              key={index}
              role="row"
              aria-rowindex={index + 2}
              className={`ov-grid-row ${lineClass(row, comparing, ofRow?.kind)}`}
              style={{ top: HEAD + start, height: ROW }}
            >
              <div role="rowheader" className="ov-grid-side" style={{ width: SIDE, height: ROW }}>
                {comparing && <span className="ov-grid-sign">{signOf(row, ofRow?.kind)}</span>}
                {nameOf(row, side, (place) => String(place + 1))}
              </div>
              {columns.getVirtualItems().map((column) => {
                const line = sheet.columns[column.index];
                if (!line) return null;
                const isSpot = shown[index] === spot.row && column.index === spot.column;
                return (
                  <TableCell
                    key={column.index}
                    sheet={sheet}
                    row={row}
                    column={line}
                    side={side}
                    formulas={formulas}
                    comparing={comparing}
                    change={changes.ofCell(sheet, row, line)}
                    ofLine={ofRow ?? changes.ofColumn(sheet, line)}
                    selected={selected}
                    isSpot={isSpot}
                    at={column.index + 2}
                    style={{ left: SIDE + column.start, width: column.size, height: ROW }}
                    onPress={(id) => {
                      onSpot({ row: shown[index] ?? 0, column: column.index });
                      if (id) onChange(id);
                    }}
                  />
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function widthOf({ a, b }: GridSheet, line: Line | undefined): number {
  const letters = line?.b === undefined ? a?.widths.get(line?.a ?? -1) : b?.widths.get(line.b);
  return letters === undefined ? USUAL : Math.min(WIDEST, Math.max(NARROWEST, letters * LETTER));
}

/** Of one side its own place; of both that of B, or of A where it is gone. */
function nameOf({ a, b }: Line, side: Props['side'], name: (place: number) => string): string {
  const place = side === 'a' ? a : (b ?? (side === 'b' ? undefined : a));
  return place === undefined ? '' : name(place);
}

function lineClass({ a, b }: Line, comparing: boolean, kind: string | undefined): string {
  if (!comparing) return '';
  if (b === undefined) return 'is-removed';
  if (a === undefined) return 'is-added';
  return kind === 'moved' ? 'is-moved' : '';
}

function signOf({ a, b }: Line, kind: string | undefined): string {
  if (b === undefined) return '−A';
  if (a === undefined) return '+B';
  return kind === 'moved' ? '→' : '';
}
