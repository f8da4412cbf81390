/** Two sheets as one grid: rows and columns of both, and the change that each cell, row and column has. */
import type { Change } from '@ovrel/core/contract';
import {
  cellName,
  columnName,
  extraAt,
  mergedLines,
  valueAt,
  type CellValue,
  type Line,
  type Sheet,
} from '@ovrel/core/table';
import type { Tables } from '../../../workers/table.ts';

export interface GridSheet {
  readonly name: string;
  readonly a: Sheet | undefined;
  readonly b: Sheet | undefined;
  readonly rows: readonly Line[];
  readonly columns: readonly Line[];
}

/** Sheets of B in their order, then those of A that are gone. */
export function gridSheets({ a, b, pairing }: Tables): GridSheet[] {
  const own = b.map((sheet, k): GridSheet => {
    const pair = pairing.sheets.find(({ inB }) => inB === k);
    return {
      name: sheet.name,
      a: pair && a[pair.inA],
      b: sheet,
      rows: mergedLines(pair?.rows ?? [], sheet.values.length),
      columns: mergedLines(pair?.columns ?? [], sheet.columns),
    };
  });
  const gone = pairing.removed.flatMap((k): GridSheet[] => {
    const sheet = a[k];
    if (!sheet) return [];
    const alone = (count: number): Line[] => Array.from({ length: count }, (_, i) => ({ a: i, b: undefined }));
    return [
      { name: sheet.name, a: sheet, b: undefined, rows: alone(sheet.values.length), columns: alone(sheet.columns) },
    ];
  });
  return [...own, ...gone];
}

/** Changes by what they are of: cells by their key in B, rows and columns by the side that has them. */
export class ChangesOfGrid {
  private readonly byB = new Map<string, Change>();
  private readonly byA = new Map<string, Change>();
  private readonly counts = new Map<string, number>();

  constructor(changes: readonly Change[]) {
    for (const change of changes) {
      if (change.partB?.key) this.byB.set(change.partB.key, change);
      else if (change.partA?.key) this.byA.set(change.partA.key, change);
      this.counts.set(change.part.page, (this.counts.get(change.part.page) ?? 0) + 1);
    }
  }

  ofSheet(name: string): number {
    return this.counts.get(name) ?? 0;
  }

  ofCell({ b }: GridSheet, row: Line, column: Line): Change | undefined {
    if (!b || row.b === undefined || column.b === undefined) return undefined;
    return this.byB.get(`${b.name}!${cellName(row.b, column.b)}`);
  }

  ofRow(sheet: GridSheet, row: Line): Change | undefined {
    return this.ofLine(sheet, 'row', row, (place) => String(place + 1));
  }

  ofColumn(sheet: GridSheet, column: Line): Change | undefined {
    return this.ofLine(sheet, 'column', column, columnName);
  }

  private ofLine({ a, b }: GridSheet, kind: string, line: Line, name: (place: number) => string): Change | undefined {
    if (line.b !== undefined) return this.byB.get(`${b?.name ?? ''}!${kind} ${name(line.b)}`);
    return line.a === undefined ? undefined : this.byA.get(`${a?.name ?? ''}!${kind} ${name(line.a)}`);
  }
}

/** Where in the grid a change is; undefined where it is on another sheet. */
export function placeOfChange(
  sheet: GridSheet,
  change: Change | undefined,
): { readonly row: number; readonly column: number } | undefined {
  const { partA, partB } = change ?? {};
  const key = partB?.key ?? partA?.key;
  const own = partB ? sheet.b : sheet.a;
  if (!key || !own || !key.startsWith(`${own.name}!`)) return undefined;
  const said = key.slice(own.name.length + 1);
  const side = partB ? 'b' : 'a';
  const [, kind, where = ''] = /^(row|column) (.*)$/.exec(said) ?? [];
  if (kind === 'row') return { row: sheet.rows.findIndex((row) => row[side] === Number(where) - 1), column: 0 };
  if (kind === 'column') return { row: 0, column: sheet.columns.findIndex((c) => columnName(c[side] ?? -1) === where) };
  const [, letters = '', digits = ''] = /^([A-Z]+)(\d+)$/.exec(said) ?? [];
  return {
    row: sheet.rows.findIndex((row) => row[side] === Number(digits) - 1),
    column: sheet.columns.findIndex((column) => columnName(column[side] ?? -1) === letters),
  };
}

/** Where a cell of B, or of A where it has gone, stands in the grid; undefined for none. */
export function placeNamed(sheet: GridSheet, name: string): { row: number; column: number } | undefined {
  const [, letters = '', digits = ''] = /^\s*\$?([A-Z]{1,3})\$?(\d{1,7})\s*$/i.exec(name) ?? [];
  if (!letters) return undefined;
  const row = sheet.rows.findIndex((line) => (line.b ?? line.a) === Number(digits) - 1);
  const column = sheet.columns.findIndex((line) => columnName(line.b ?? line.a ?? -1) === letters.toUpperCase());
  return row < 0 || column < 0 ? undefined : { row, column };
}

export interface Shown {
  readonly text: string;
  readonly isNumber: boolean;
  readonly look: string;
}

const nothing: Shown = { text: '', isNumber: false, look: '' };

/** What a cell shows: its value as its format has it, or its formula. */
export function shownIn(
  sheet: Sheet | undefined,
  row: number | undefined,
  column: number | undefined,
  formulas: boolean,
): Shown {
  if (!sheet || row === undefined || column === undefined) return nothing;
  const value = valueAt(sheet, row, column);
  const extra = extraAt(sheet, row, column);
  const look = extra?.look ?? '';
  if (formulas && extra?.formula !== undefined) return { text: `=${extra.formula}`, isNumber: false, look };
  return { text: sayCell(value, extra?.format), isNumber: typeof value === 'number', look };
}

/** Decimals, thousands and hundredths of a format are followed; what else it says is not. */
export function sayCell(value: CellValue, format = ''): string {
  if (value === null) return '';
  if (typeof value === 'boolean') return value ? 'TRUE' : 'FALSE';
  if (typeof value !== 'number') return value;
  const plain = /^(#,##)?0(?:\.(0+))?(%)?$/.exec(format.split(';')[0] ?? '');
  if (!plain) return String(Number(value.toPrecision(12)));
  const [, thousands, decimals = '', percent] = plain;
  const shown = percent ? value * 100 : value;
  const digits = { minimumFractionDigits: decimals.length, maximumFractionDigits: decimals.length };
  return `${shown.toLocaleString('en', { ...digits, useGrouping: Boolean(thousands) })}${percent ?? ''}`;
}
