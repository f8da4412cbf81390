/** The neutral model of tables: sheets of cells, with what their cells say beside their values. */
import { noTraits, emptyGeometry, plainPart, type Design, type Part } from './design.ts';

export type CellValue = string | number | boolean | null;

/** What a cell has beside its value. */
export interface CellExtra {
  /** Without the sign before it; places as `A1`, `$A$1`, `A1:B2`, `Sheet!A1`. */
  readonly formula?: string;
  /** How a number is shown, as the file says it. */
  readonly format?: string;
  /** Font, fill and borders in a few words. */
  readonly look?: string;
  readonly comment?: string;
}

export interface Sheet {
  readonly name: string;
  readonly isHidden: boolean;
  /** By row and column; rows end with their last value. */
  readonly values: readonly (readonly CellValue[])[];
  /** By number of the cell. */
  readonly extras: ReadonlyMap<number, CellExtra>;
  /** Columns that are used. */
  readonly columns: number;
  readonly hiddenRows: ReadonlySet<number>;
  readonly hiddenColumns: ReadonlySet<number>;
  /** Of columns, in letters of the usual font; others have the usual width. */
  readonly widths: ReadonlyMap<number, number>;
  /** Cells that are one, as `A1:B2`. */
  readonly merged: readonly string[];
}

export interface Workbook extends Design {
  readonly sheets: readonly Sheet[];
  /** What names stand for. */
  readonly names: ReadonlyMap<string, string>;
}

/** More columns than any program has. */
export const WIDEST = 16_384;

export const cellNumber = (row: number, column: number): number => row * WIDEST + column;

export const valueAt = ({ values }: Sheet, row: number, column: number): CellValue => values[row]?.[column] ?? null;

export const extraAt = ({ extras }: Sheet, row: number, column: number): CellExtra | undefined =>
  // Most tables of values have none.
  extras.size === 0 ? undefined : extras.get(cellNumber(row, column));

/** A sheet of values alone. */
export function plainSheet(name: string, values: readonly (readonly CellValue[])[]): Sheet {
  return {
    name,
    isHidden: false,
    values,
    extras: new Map(),
    columns: values.reduce((most, row) => Math.max(most, row.length), 0),
    hiddenRows: new Set(),
    hiddenColumns: new Set(),
    widths: new Map(),
    merged: [],
  };
}

/** Longest name of a row, in letters. */
const LONGEST = 60;

/** The first words of a row, or else its first value; empty for a row without values. */
export function firstOf(row: readonly CellValue[]): string {
  const values = row.filter((value) => value !== null);
  const first = values.find((value) => typeof value === 'string') ?? values[0];
  return first === undefined ? '' : String(first).slice(0, LONGEST);
}

const rowsOf = ({ name, values }: Sheet, page: number): Part[] =>
  values.map((row, k) =>
    plainPart({ key: `${name}!row ${k + 1}`, kind: 'row', name: firstOf(row), page, box: undefined }),
  );

/** Of a row of a sheet, its number among the parts. */
export function partOfRow({ sheets }: Workbook, sheet: number, row: number): number {
  let before = 0;
  for (let k = 0; k < sheet; k++) before += sheets[k]?.values.length ?? 0;
  return before + row;
}

export function workbookOf(
  format: string,
  sheets: readonly Sheet[],
  { origin = {}, names = new Map(), notes = [] }: Partial<Pick<Workbook, 'origin' | 'names' | 'notes'>> = {},
): Workbook {
  return {
    format,
    traits: noTraits,
    origin,
    pages: sheets.map(({ name, values, columns }) => ({ name, box: [0, 0, columns, values.length] })),
    parts: sheets.flatMap(rowsOf),
    definitions: [],
    geometry: emptyGeometry,
    notes,
    sequential: true,
    sheets,
    names,
  };
}
