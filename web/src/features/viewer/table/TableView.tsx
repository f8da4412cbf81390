'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { lookNames, type Showing } from '../looks.ts';
import { useView } from '../state.ts';
import { useKeys } from '../../frame/keys.tsx';
import { ChangesOfGrid, gridSheets, placeNamed, placeOfChange, type GridSheet } from './grid.ts';
import { SheetTabs } from './SheetTabs.tsx';
import { TableBar } from './TableBar.tsx';
import { TableGrid, type Spot } from './TableGrid.tsx';
import { useTables } from './useTables.ts';

export const tableLooks: readonly Showing[] = ['overlay', 'side', 'only'];
/** Rows around each change where only changes are shown. */
const AROUND = 2;
const noSheets: readonly GridSheet[] = [];
const first: Spot = { row: 0, column: 0 };

/** A table, or two as one grid. */
export function TableView(): React.ReactNode {
  const { a, b, comparing, result, listed, selected, look: asked, move, select, stepChange } = useView();
  const isCompared = comparing && result !== undefined;
  const { tables, broken } = useTables(isCompared ? a : undefined, b);
  const sheets = useMemo(() => (tables ? gridSheets(tables) : noSheets), [tables]);
  const changes = useMemo(() => new ChangesOfGrid(isCompared ? listed : []), [listed, isCompared]);
  const [chosen, setChosen] = useState<string>();
  const [spot, setSpot] = useState(first);
  const [formulas, setFormulas] = useState(false);
  const [left, right] = [useRef<HTMLDivElement>(null), useRef<HTMLDivElement>(null)];
  const look = isCompared && tableLooks.includes(asked) ? asked : 'overlay';
  const sheet = sheets.find(({ name }) => name === chosen) ?? sheets.find(({ b: own }) => !own?.isHidden) ?? sheets[0];
  const current = listed.find(({ id }) => id === selected);
  useEffect(() => {
    if (!current) return;
    const own = sheets.find(({ name }) => name === current.part.page);
    const place = own && placeOfChange(own, current);
    if (!own || !place) return;
    setChosen(own.name);
    setSpot({ row: Math.max(0, place.row), column: Math.max(0, place.column) });
  }, [current, sheets]);
  useKeys(
    isCompared
      ? tableLooks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => move({ look: l }) }))
      : [],
  );
  const shown = useMemo(() => (sheet ? rowsShown(sheet, changes, look === 'only') : []), [sheet, changes, look]);
  if (broken)
    return (
      <div className="ov-waiting">
        <div>{broken}</div>
      </div>
    );
  if (!sheet)
    return (
      <div className="ov-waiting" role="status">
        <div>{tables ? 'There is no sheet in this table.' : 'Opening the table …'}</div>
      </div>
    );
  const common = {
    sheet,
    shown,
    changes,
    comparing: isCompared,
    formulas,
    selected,
    spot,
    onSpot: setSpot,
    onChange: select,
  };
  return (
    <>
      <TableBar
        look={look}
        looks={isCompared ? tableLooks : []}
        onLook={(to) => move({ look: to })}
        formulas={formulas}
        onFormulas={setFormulas}
        onStep={isCompared && listed.length > 0 ? stepChange : undefined}
        onCell={(name) => {
          const place = placeNamed(sheet, name);
          if (place) setSpot(place);
          return place !== undefined;
        }}
      />
      <SheetTabs
        sheets={sheets}
        chosen={sheet.name}
        countOf={(name) => changes.ofSheet(name)}
        onChoose={(name) => {
          setChosen(name);
          setSpot(first);
        }}
      />
      <div className="ov-tables" data-ready={tables !== undefined}>
        {look === 'side' ? (
          <>
            <TableGrid {...common} side="a" label={`${sheet.name}, v${a.number}`} own={left} follows={right} />
            <TableGrid {...common} side="b" label={`${sheet.name}, v${b.number}`} own={right} follows={left} />
          </>
        ) : (
          <TableGrid {...common} side="both" label={sheet.name} />
        )}
      </div>
    </>
  );
}

/** All rows, or those that changed with some around them. */
function rowsShown(sheet: GridSheet, changes: ChangesOfGrid, onlyChanges: boolean): number[] {
  const all = sheet.rows.map((_, k) => k);
  if (!onlyChanges) return all;
  const kept = new Set<number>();
  sheet.rows.forEach((row, k) => {
    const isChanged =
      changes.ofRow(sheet, row) !== undefined ||
      sheet.columns.some((column) => changes.ofCell(sheet, row, column) !== undefined);
    if (isChanged) for (let n = k - AROUND; n <= k + AROUND; n++) kept.add(n);
  });
  return all.filter((k) => kept.has(k));
}
