/** Which sheet, row and column of one table is which of another. */
import { plainSheet, type Sheet, type Workbook } from '../../model/workbook.ts';
import { keyColumns, headsOf } from './heads.ts';
import { pairColumns } from './pair-columns.ts';
import { pairRows } from './pair-rows.ts';

export interface SheetPair {
  readonly inA: number;
  readonly inB: number;
  /** For each column, and each row, of A its place in B, −1 for none. */
  readonly columns: Int32Array;
  readonly rows: Int32Array;
  /** The column of B by which rows are known; −1 for none. */
  readonly key: number;
}

export interface TablePairing {
  readonly sheets: readonly SheetPair[];
  readonly removed: readonly number[];
  readonly added: readonly number[];
}

/** Share of what two sheets of other names have in common, to be the same one. */
const ALIKE = 0.4;

export const pairTables = (a: Workbook, b: Workbook): TablePairing => pairSheetLists(a.sheets, b.sheets);

export function pairSheetLists(a: readonly Sheet[], b: readonly Sheet[]): TablePairing {
  const toB = pairSheets(a, b);
  const taken = new Set(toB);
  return {
    sheets: toB.flatMap((inB, inA) => (inB < 0 ? [] : [pairedSheet(a[inA], b[inB], inA, inB)])),
    removed: toB.flatMap((inB, inA) => (inB < 0 ? [inA] : [])),
    added: b.flatMap((_, inB) => (taken.has(inB) ? [] : [inB])),
  };
}

const nothing = plainSheet('', []);

function pairedSheet(a: Sheet = nothing, b: Sheet = nothing, inA: number, inB: number): SheetPair {
  const columns = pairColumns(a, b);
  const keys = keyColumns(a, b, columns);
  return { inA, inB, columns, rows: pairRows(a, b, columns, keys), key: keys?.inB ?? -1 };
}

/** Those of one name, and of the rest those that say the same; the only ones of both are each other. */
function pairSheets(a: readonly Sheet[], b: readonly Sheet[]): number[] {
  const toB = a.map(({ name }) => b.findIndex((other) => other.name.toLowerCase() === name.toLowerCase()));
  const left = (): [number[], number[]] => [
    toB.flatMap((j, i) => (j < 0 ? [i] : [])),
    b.flatMap((_, j) => (toB.includes(j) ? [] : [j])),
  ];
  const [restA, restB] = left();
  const found = restA.flatMap((i) => restB.map((j) => [shareOf(a[i] as Sheet, b[j] as Sheet), i, j] as const));
  for (const [share, i, j] of found.sort((p, q) => q[0] - p[0]))
    if (share >= ALIKE && toB[i] === -1 && !toB.includes(j)) toB[i] = j;
  const [lastA, lastB] = left();
  if (a.length === 1 && b.length === 1 && lastA.length === 1) toB[0] = lastB[0] ?? -1;
  return toB;
}

/** Rows that are looked at. */
const SAMPLE = 500;

function shareOf(a: Sheet, b: Sheet): number {
  const rows = ({ values }: Sheet): Set<string> => new Set(values.slice(0, SAMPLE).map((row) => row.join('\u0001')));
  const [inA, inB] = [rows(a), rows(b)];
  let shared = 0;
  for (const row of inA) if (inB.has(row)) shared++;
  const heads = headsOf(a).filter(Boolean);
  const same = heads.length > 0 && heads.join() === headsOf(b).filter(Boolean).join() ? 0.3 : 0;
  return shared / Math.max(1, inA.size, inB.size) + same;
}
