/** Workbooks as a library reads them, in the words of the neutral model. */
import { unzipSync } from 'fflate';
import type { Cell, CellStyle, Sheet as ReadSheet, Workbook as ReadBook } from 'hucre';
import { formulaMoved } from '../../text/formula.ts';
import { ReadError } from '../../model/problem.ts';
import type { Limits } from '../../model/limits.ts';
import {
  cellNumber,
  WIDEST,
  workbookOf,
  type CellExtra,
  type CellValue,
  type Sheet,
  type Workbook,
} from '../../model/workbook.ts';

/** A package may hold so many times its size. */
const MOST_GROWTH = 400;
/** Bytes that any package may hold. */
const SMALL = 1e7;

/** What a library throws is said in a sentence. Throws ReadError. */
export async function readBook(
  bytes: Uint8Array,
  limits: Limits,
  read: (bytes: Uint8Array, options: { readStyles: boolean }) => Promise<ReadBook>,
): Promise<ReadBook> {
  refuseBombs(bytes, limits);
  try {
    return await read(bytes, { readStyles: true });
  } catch (error) {
    throw new ReadError(`The spreadsheet cannot be read: ${(error as Error).message.replace(/\.$/, '')}.`);
  }
}

/** Looks at what the container says of its members, before anything is unpacked. */
function refuseBombs(bytes: Uint8Array, limits: Limits): void {
  let [packed, whole] = [0, 0];
  const count = ({ size, originalSize }: { readonly size: number; readonly originalSize: number }): boolean => {
    packed += size;
    whole += originalSize;
    return false;
  };
  try {
    unzipSync(bytes, { filter: count });
  } catch (error) {
    throw new ReadError(`The package cannot be opened: ${(error as Error).message}.`);
  }
  if (whole > limits.bytes || whole > SMALL + MOST_GROWTH * packed)
    throw new ReadError('The package holds more than Ovrel looks into.', undefined, 'too-large');
}

/** Throws ReadError of a workbook of more cells than may be. */
export function bookOf(format: string, read: ReadBook, limits: Limits): Workbook {
  let left = limits.cells;
  const sheets = read.sheets.map((sheet) => {
    left -= sheet.rows.reduce((sum, row) => sum + row.length, 0);
    if (left < 0) throw new ReadError('The table has more cells than Ovrel looks into.', undefined, 'too-large');
    return sheetOf(sheet);
  });
  const names = new Map(
    (read.namedRanges ?? []).map(({ name, range, scope }) => [scope ? `${scope}!${name}` : name, range]),
  );
  const { creator } = read.properties ?? {};
  return workbookOf(format, sheets, { names, origin: creator ? { program: creator } : {} });
}

function sheetOf(sheet: ReadSheet): Sheet {
  const values = trimmed(sheet.rows.map((row) => row.map(valueOf)));
  const hidden = (of: Iterable<readonly [number, { readonly hidden?: boolean } | undefined]>): Set<number> =>
    new Set([...of].flatMap(([k, known]) => (known?.hidden ? [k] : [])));
  const extras = extrasOf(sheet);
  let columns = values.reduce((most, row) => Math.max(most, row.length), 0);
  for (const number of extras.keys()) columns = Math.max(columns, (number % WIDEST) + 1);
  return {
    name: sheet.name,
    isHidden: Boolean(sheet.hidden ?? sheet.veryHidden),
    values,
    extras,
    columns,
    hiddenRows: hidden(sheet.rowDefs ?? []),
    hiddenColumns: hidden((sheet.columns ?? []).entries()),
    widths: new Map(
      (sheet.columns ?? []).flatMap(({ width }, k) => (width === undefined ? [] : [[k, width] as const])),
    ),
    merged: (sheet.merges ?? []).map(
      ({ startRow, startCol, endRow, endCol }) => `${startRow} ${startCol} ${endRow} ${endCol}`,
    ),
  };
}

/** Rows end with their last value, and sheets with their last row that has one. */
function trimmed(rows: CellValue[][]): CellValue[][] {
  for (const row of rows) while (row.length > 0 && row.at(-1) === null) row.pop();
  while (rows.length > 0 && rows.at(-1)?.length === 0) rows.pop();
  return rows;
}

function valueOf(value: unknown): CellValue {
  if (value instanceof Date) return sayDate(value);
  if (typeof value === 'number' || typeof value === 'boolean') return value;
  if (typeof value === 'string') return value === '' ? null : value;
  return null;
}

/** As a day, and a time where it has one. */
function sayDate(date: Date): string {
  if (Number.isNaN(date.getTime())) return '#VALUE!';
  const [day = '', time = ''] = date.toISOString().split('T');
  const clock = time.replace(/\.000Z$|Z$/, '');
  return clock === '00:00:00' ? day : `${day} ${clock}`;
}

function extrasOf({ cells }: ReadSheet): Map<number, CellExtra> {
  const extras = new Map<number, CellExtra>();
  const masters = new Map<number, { readonly row: number; readonly column: number; readonly formula: string }>();
  for (const [key, cell] of cells ?? []) {
    const [row = 0, column = 0] = key.split(',').map(Number);
    if (cell.formula && cell.formulaSharedIndex !== undefined && cell.formulaRef !== undefined)
      masters.set(cell.formulaSharedIndex, { row, column, formula: cell.formula });
    const formula = formulaOf(cell, row, column, masters);
    const extra = { ...(formula ? { formula } : {}), ...styleOf(cell) };
    if (Object.keys(extra).length > 0) extras.set(cellNumber(row, column), extra);
  }
  return extras;
}

/** A formula that was filled down stands only where that began: its followers are told from there. */
function formulaOf(
  { formula, formulaSharedIndex }: Cell,
  row: number,
  column: number,
  masters: ReadonlyMap<number, { readonly row: number; readonly column: number; readonly formula: string }>,
): string | undefined {
  if (formula) return formula.replace(/^=/, '');
  const master = formulaSharedIndex === undefined ? undefined : masters.get(formulaSharedIndex);
  return master && formulaMoved(master.formula, row - master.row, column - master.column);
}

function styleOf({ style, comment }: Cell): Pick<CellExtra, 'format' | 'look' | 'comment'> {
  const look = style ? lookOf(style) : '';
  const format = style?.numFmt;
  return {
    ...(format && format !== 'General' ? { format } : {}),
    ...(look ? { look } : {}),
    ...(comment ? { comment: comment.text } : {}),
  };
}

interface Tint {
  readonly rgb?: string;
  readonly theme?: number;
  readonly tint?: number;
  readonly indexed?: number;
}

function lookOf({ font, fill, alignment }: CellStyle): string {
  const colour = (tint: Tint | undefined): string | undefined => {
    if (!tint) return undefined;
    if (tint.rgb) return `#${tint.rgb.slice(-6).toLowerCase()}`;
    return tint.theme === undefined
      ? undefined
      : `theme colour ${tint.theme}${tint.tint ? ` ${tint.tint.toFixed(2)}` : ''}`;
  };
  const ground = fill?.type === 'pattern' && fill.pattern !== 'none' ? colour(fill.fgColor) : undefined;
  const ink = colour(font?.color);
  const plainInk = ink === '#000000' || ink === 'theme colour 1' ? undefined : ink;
  return [
    font?.bold ? 'bold' : '',
    font?.italic ? 'italic' : '',
    font?.underline ? 'underlined' : '',
    font?.strikethrough ? 'struck out' : '',
    plainInk ? `in ${plainInk}` : '',
    ground ? `on ${ground}` : '',
    alignment?.horizontal && alignment.horizontal !== 'general' ? alignment.horizontal : '',
  ]
    .filter(Boolean)
    .join(', ');
}
