/** Tables for spreadsheets: CSV after RFC 4180, by a package, and written nowhere else. */
import { stringify } from 'csv-stringify/browser/esm/sync';

export type Cell = string | number | null;

/** A text that a spreadsheet would take for a formula is told apart from one; numbers stay numbers. */
const unlikeFormula = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** Rows, each with its line end. */
export const csvRows = (rows: readonly (readonly Cell[])[]): string =>
  stringify(rows as Cell[][], { record_delimiter: 'windows', quoted_match: /[\r\n]/, cast: { string: unlikeFormula } });

/** A whole table, with a byte order mark so that spreadsheets read it as UTF-8. */
export const csvTable = (columns: readonly string[], rows: readonly (readonly Cell[])[]): string =>
  `\ufeff${csvRows([columns, ...rows])}`;
