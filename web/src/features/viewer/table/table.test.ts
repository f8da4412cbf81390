import { pairSheetLists, type Sheet } from '@ovrel/core/table';
import type { Change } from '@ovrel/core/contract';
import { ChangesOfGrid, gridSheets, placeNamed, placeOfChange, sayCell, shownIn } from './grid.ts';
import { stepped } from './moving.ts';

const sheet = (name: string, values: Sheet['values'], extras: Sheet['extras'] = new Map()): Sheet => ({
  name,
  isHidden: false,
  values,
  extras,
  columns: 2,
  hiddenRows: new Set(),
  hiddenColumns: new Set(),
  widths: new Map(),
  merged: [],
});
const rows = ['Mark,Mass', 'B1,10', 'B2,20', 'B3,30', 'B4,40'].map((row) => row.split(','));
const a = [sheet('Steel', rows), sheet('Old', [['Word', 'Other']])];
const b = [sheet('Steel', [...rows.slice(0, 2), ['B9', '90'], rows[3] as string[], rows[4] as string[]])];
const grid = gridSheets({ a, b, pairing: pairSheetLists(a, b) });
const [steel, old] = grid;

test('rows that are gone stand where they stood, between those of B', () => {
  expect(steel?.rows.map(({ a: i, b: j }) => [i, j])).toEqual([
    [0, 0],
    [1, 1],
    [2, undefined],
    [undefined, 2],
    [3, 3],
    [4, 4],
  ]);
  expect(old).toMatchObject({ name: 'Old', b: undefined, rows: [{ a: 0 }] });
});

test('changes are found by their cell, their row and their sheet', () => {
  const change = (part: Partial<Change>): Change => ({ part: { page: 'Steel' }, what: [], ...part }) as Change;
  const cell = change({
    id: 'c1',
    kind: 'changed',
    partA: { key: 'Steel!B4' },
    partB: { key: 'Steel!B4' },
  } as Partial<Change>);
  const row = change({ id: 'c2', kind: 'removed', partA: { key: 'Steel!row 3' } } as Partial<Change>);
  const changes = new ChangesOfGrid([cell, row]);
  const [, , gone, , third] = steel?.rows ?? [];
  const [, mass] = steel?.columns ?? [];
  if (!steel || !gone || !third || !mass) throw new Error('the grid has too few rows');
  expect(changes.ofRow(steel, gone)).toBe(row);
  expect(changes.ofCell(steel, third, mass)).toBe(cell);
  expect(changes.ofSheet('Steel')).toBe(2);
  expect(placeOfChange(steel, cell)).toEqual({ row: 4, column: 1 });
  expect(placeOfChange(steel, row)).toEqual({ row: 2, column: 0 });
  expect(placeNamed(steel, ' b4 ')).toEqual({ row: 4, column: 1 });
  expect(placeNamed(steel, 'ZZ9')).toBeUndefined();
});

test('numbers are shown as their formats have them, formulas where they are asked for', () => {
  expect([sayCell(1234.5, '#,##0.00'), sayCell(0.256, '0.0%'), sayCell(3.5), sayCell(0.1 + 0.2)]).toEqual([
    '1,234.50',
    '25.6%',
    '3.5',
    '0.3',
  ]);
  const own = sheet('S', [['x', 2]], new Map([[1, { formula: 'A1*2', format: '0.00' }]]));
  expect(shownIn(own, 0, 1, false)).toMatchObject({ text: '2.00', isNumber: true });
  expect(shownIn(own, 0, 1, true)).toMatchObject({ text: '=A1*2', isNumber: false });
  expect(shownIn(own, undefined, 1, true).text).toBe('');
});

test('keys go from cell to cell, and not beyond the table', () => {
  const extent = { rows: 30, columns: 3 };
  expect(stepped('ArrowDown', { at: 29, column: 0 }, extent)).toEqual({ at: 29, column: 0 });
  expect(stepped('PageDown', { at: 2, column: 1 }, extent)).toEqual({ at: 22, column: 1 });
  expect(stepped('End', { at: 2, column: 0 }, extent)).toEqual({ at: 2, column: 2 });
  expect(stepped('a', { at: 2, column: 0 }, extent)).toBeUndefined();
});
