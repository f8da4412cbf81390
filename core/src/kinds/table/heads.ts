/** What columns are called, and by which column rows are known. */
import { extraAt, valueAt, type CellValue, type Sheet } from '../../model/workbook.ts';

/** Rows in which a head is looked for. */
const HIGH = 12;
/** Share of the values of a head that are words. */
const WORDY = 0.7;
/** Share of the values of a key that stand only once. */
const UNIQUE = 0.98;
/** Share of the keys of one side that the other has as well. */
const SHARED = 0.4;
/** Share of rows whose number follows that of the row before. */
const RUNNING = 0.9;

/** The row that says what columns are called; −1 for none. */
export function headRow(sheet: Sheet): number {
  for (let row = 0; row < Math.min(HIGH, sheet.values.length); row++) {
    const values = (sheet.values[row] ?? []).filter((value) => value !== null);
    const words = values.filter((value) => typeof value === 'string' && !/^[-\d.,\s]+$/.test(value));
    // A title over the table stands alone.
    if (words.length >= 2 && words.length >= WORDY * values.length) return row;
  }
  return -1;
}

/** By column; empty for those without a name. */
export function headsOf(sheet: Sheet): string[] {
  const row = headRow(sheet);
  return Array.from({ length: sheet.columns }, (_, column) => {
    const value = row < 0 ? null : valueAt(sheet, row, column);
    return typeof value === 'string' ? value.trim().replace(/\s+/g, ' ') : '';
  });
}

export interface KeyColumns {
  readonly inA: number;
  readonly inB: number;
}

/** The first pair of columns whose values tell rows apart on both sides, and are largely the same. */
export function keyColumns(a: Sheet, b: Sheet, columns: Int32Array): KeyColumns | undefined {
  for (let inA = 0; inA < columns.length; inA++) {
    const inB = columns[inA] as number;
    if (inB < 0) continue;
    const [keysA, keysB] = [keysIn(a, inA), keysIn(b, inB)];
    if (!keysA || !keysB) continue;
    let shared = 0;
    for (const key of keysA) if (keysB.has(key)) shared++;
    if (shared >= SHARED * Math.min(keysA.size, keysB.size)) return { inA, inB };
  }
  return undefined;
}

/** Undefined where the values of a column do not tell its rows apart, or only count them. */
function keysIn(sheet: Sheet, column: number): ReadonlySet<string> | undefined {
  const first = headRow(sheet) + 1;
  const keys = new Set<string>();
  let [count, running] = [0, 0];
  let before: CellValue = null;
  for (let row = first; row < sheet.values.length; row++) {
    const value = valueAt(sheet, row, column);
    if (value === null) continue;
    const isKey = typeof value === 'string' || Number.isInteger(value);
    if (!isKey || extraAt(sheet, row, column)?.formula !== undefined) return undefined;
    count++;
    keys.add(String(value));
    if (typeof value === 'number' && typeof before === 'number' && value === before + 1) running++;
    before = value;
  }
  const rows = sheet.values.length - first;
  if (count < 2 || count < 0.8 * rows || keys.size < UNIQUE * count) return undefined;
  return running >= RUNNING * (count - 1) ? undefined : keys;
}

/** Columns that only count their rows: an inserted row changes all that follow. */
export function countsRows(sheet: Sheet, column: number): boolean {
  const first = headRow(sheet) + 1;
  let [count, running] = [0, 0];
  let before: CellValue = null;
  for (let row = first; row < sheet.values.length; row++) {
    const value = valueAt(sheet, row, column);
    if (typeof value !== 'number') {
      if (value !== null) return false;
      continue;
    }
    count++;
    if (typeof before === 'number' && value === before + 1) running++;
    before = value;
  }
  return count >= 3 && running >= RUNNING * (count - 1);
}
