/** Places in a sheet as people write them: columns in letters, rows from 1. */
const LETTERS = 26;
const FIRST = 65;

/** 0 is A, 26 is AA. */
export function columnName(column: number): string {
  let name = '';
  for (let left = column + 1; left > 0; left = Math.floor((left - 1) / LETTERS))
    name = String.fromCharCode(FIRST + ((left - 1) % LETTERS)) + name;
  return name;
}

/** A is 0. */
export function columnOf(name: string): number {
  let column = 0;
  for (let k = 0; k < name.length; k++) column = column * LETTERS + (name.toUpperCase().charCodeAt(k) - FIRST + 1);
  return column - 1;
}

export const cellName = (row: number, column: number): string => `${columnName(column)}${row + 1}`;

/** “5”, or “5–9”. */
export const rowsName = (first: number, last: number): string =>
  first === last ? `${first + 1}` : `${first + 1}–${last + 1}`;

/** “D5”, or “D5:D9”. */
export const rangeName = (column: number, first: number, last: number): string =>
  first === last ? cellName(first, column) : `${cellName(first, column)}:${cellName(last, column)}`;
