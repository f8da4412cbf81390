'use client';

import type { Change } from '@ovrel/core/contract';
import type { Line } from '@ovrel/core/table';
import { shownIn, type GridSheet, type Shown } from './grid.ts';

interface Props {
  readonly sheet: GridSheet;
  readonly row: Line;
  readonly column: Line;
  readonly side: 'both' | 'a' | 'b';
  readonly formulas: boolean;
  readonly comparing: boolean;
  readonly change: Change | undefined;
  /** Of its row or column. */
  readonly ofLine: Change | undefined;
  readonly selected: string | undefined;
  readonly isSpot: boolean;
  readonly at: number;
  readonly style: React.CSSProperties;
  readonly onPress: (change: string | undefined) => void;
}

/** One cell, or what it was and what it is. */
export function TableCell(props: Props): React.ReactNode {
  const { sheet, row, column, side, comparing, change, ofLine, selected, isSpot, at, style, onPress } = props;
  // Where a formula came, went or changed, its words say more than its value.
  const formulas = props.formulas || (change?.what.some(({ aspect }) => aspect === 'formula') ?? false);
  const was = shownIn(sheet.a, row.a, column.a, formulas);
  const is = shownIn(sheet.b, row.b, column.b, formulas);
  const known = change ?? ofLine;
  const only = onlySide(side, column, row);
  const isCurrent = known !== undefined && known.id === selected;
  const classes = [
    change ? 'is-changed' : '',
    change && side === 'both' && was.text !== is.text ? 'is-both' : '',
    comparing && column.b === undefined ? 'is-removed' : '',
    comparing && column.a === undefined ? 'is-added' : '',
    isCurrent ? 'is-current' : '',
    (only === 'a' ? was : is).isNumber ? 'is-number' : '',
  ];
  return (
    <div
      role="gridcell"
      aria-colindex={at}
      aria-selected={isCurrent}
      tabIndex={isSpot ? 0 : -1}
      data-spot={isSpot}
      className={classes.filter(Boolean).join(' ')}
      style={style}
      title={titleOf(was, is, change)}
      onClick={() => onPress(known?.id)}
    >
      {change && side === 'both' && was.text !== is.text ? (
        <>
          {was.text !== '' && <del>{was.text}</del>}
          {is.text !== '' && <ins>{is.text}</ins>}
        </>
      ) : (
        <Words shown={only === 'a' ? was : is} />
      )}
    </div>
  );
}

function onlySide(side: Props['side'], column: Line, row: Line): 'a' | 'b' {
  if (side !== 'both') return side;
  return row.b === undefined || column.b === undefined ? 'a' : 'b';
}

const Words = ({ shown: { text, look } }: { readonly shown: Shown }): React.ReactNode =>
  look.startsWith('bold') ? <strong>{text}</strong> : text;

const titleOf = (was: Shown, is: Shown, change: Change | undefined): string =>
  change ? change.what.map(({ aspect, from, to }) => `${aspect}: ${from} → ${to}`).join('\n') : is.text || was.text;
