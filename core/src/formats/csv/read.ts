/** Tables of values (RFC 4180, and how programs write them): the sign between values and the decimal sign are found out. */
import Papa from 'papaparse';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { plainSheet, workbookOf, type CellValue, type Workbook } from '../../model/workbook.ts';
import { decodeAny } from '../shared/plain-text.ts';

const NAMES: Readonly<Record<string, string>> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'upright bars' };
const PLAIN = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;
const WITH_COMMA = /^-?(?:0|[1-9]\d*),\d+$/;
/** Where the decimal sign is looked for. */
const SAMPLE = 2000;
/** Rows by which the sign between values is known. */
const PREVIEW = 60;

/** Throws ReadError where it is no table, or more than the limits allow. */
export function readCsv(bytes: Uint8Array, limits: Limits): Workbook {
  if (bytes.length > limits.bytes)
    throw new ReadError('The table is larger than Ovrel looks into.', undefined, 'too-large');
  const text = decodeAny(bytes).replace(/^\ufeff/, '');
  const { data, errors, meta } = Papa.parse<string[]>(text, { delimiter: delimiterOf(text) });
  if (data.length > 0 && data.at(-1)?.every((value) => value === '')) data.pop();
  const cells = data.reduce((sum, row) => sum + row.length, 0);
  if (cells > limits.cells)
    throw new ReadError('The table has more cells than Ovrel looks into.', undefined, 'too-large');
  if (cells === 0) throw new ReadError('There is no value in this table.', undefined, 'empty');
  const hasComma = decimalComma(data, meta.delimiter);
  const values = data.map((row) => row.map((value) => valueOf(value, hasComma)));
  const broken = errors.find(({ type }) => type === 'Quotes');
  const named = NAMES[meta.delimiter];
  return workbookOf('csv', [plainSheet('Table', values)], {
    notes: [
      `Its values are parted by ${named ?? `“${meta.delimiter}”`}${hasComma ? '; its decimal sign is a comma' : ''}.`,
      ...(broken ? [`A quotation mark in row ${((broken.row ?? 0) + 1).toLocaleString('en')} is never closed.`] : []),
    ],
  });
}

/** The sign that parts most rows into as many values, and into most. */
function delimiterOf(text: string): string {
  const scores = Object.keys(NAMES).map((delimiter) => {
    const { data } = Papa.parse<string[]>(text, { delimiter, preview: PREVIEW });
    const sizes = data.filter((row) => row.some((value) => value !== '')).map((row) => row.length);
    const counts = new Map<number, number>();
    for (const size of sizes) if (size > 1) counts.set(size, (counts.get(size) ?? 0) + 1);
    const [size = 1, rows = 0] = [...counts].sort((p, q) => q[1] - p[1])[0] ?? [];
    return { delimiter, share: rows / Math.max(1, sizes.length), size };
  });
  const [best] = scores.sort((p, q) => q.share - p.share || q.size - p.size);
  return best && best.share > 0 ? best.delimiter : ',';
}

/** Numbers with a comma, and none with a point. */
function decimalComma(rows: readonly (readonly string[])[], delimiter: string): boolean {
  if (delimiter === ',') return false;
  const values = rows.slice(0, SAMPLE).flat();
  const count = (like: RegExp): number => values.filter((value) => like.test(value.trim())).length;
  return count(WITH_COMMA) > count(/^-?\d+\.\d+$/);
}

function valueOf(said: string, hasComma: boolean): CellValue {
  const value = said.trim();
  if (value === '') return null;
  if (PLAIN.test(value)) return Number(value);
  return hasComma && WITH_COMMA.test(value) ? Number(value.replace(',', '.')) : said;
}
