/** Two tables: sheets, rows and columns that came, went and moved, and what differs in the cells that both have. */
import type { CauseDraft, Evidence } from '../../causes/draft.ts';
import type { Pairing } from '../../match/pairing.ts';
import { partOfRow, type Workbook } from '../../model/workbook.ts';
import { cellCauses, type Told } from './cell-causes.ts';
import { Cells, columnCalled } from './cells.ts';
import { headsOf } from './heads.ts';
import { lineCauses } from './line-causes.ts';
import { Changes, type Tables } from './listing.ts';
import { pairTables, type SheetPair, type TablePairing } from './pairing.ts';
import { sheetCauses } from './sheet-causes.ts';

export interface ComparedTables extends Evidence {
  /** For each change the rows that it is of; −1 for none. */
  readonly parts: readonly (readonly [number, number])[];
  /** Which row is which. */
  readonly pairing: Pairing;
  /** Rows of B that somebody did something to. */
  readonly edited: ReadonlySet<number>;
}

export function compareTables(a: Workbook, b: Workbook): ComparedTables {
  const pairing = pairTables(a, b);
  const tables: Tables = { a, b, pairing, headsA: a.sheets.map(headsOf), headsB: b.sheets.map(headsOf) };
  const list = new Changes(tables);
  const causes: CauseDraft[] = sheetCauses(tables, list);
  const cells = new Cells(a, b, pairing);
  const notes: string[] = [];
  const edited = new Set<number>();
  let unchanged = 0;
  for (const pair of pairing.sheets) {
    const lines = lineCauses(tables, pair, list);
    const told: Told[] = [];
    for (const change of cells.changesOf(pair)) {
      told.push({ ...change, number: list.cell(change) });
      if (change.kind !== 'recalculated') edited.add(partOfRow(b, pair.inB, change.inB.row));
    }
    causes.push(...lines, ...cellCauses(tables, pair, cells, told));
    unchanged += bothOf(pair) - told.length;
  }
  const keys = pairing.sheets.flatMap((pair) => keyOf(tables, pair));
  if (keys.length > 0) notes.push(`Rows are known by ${keys.join(', ')}.`);
  if (list.left > 0)
    notes.push(`${list.left.toLocaleString('en')} more changes are counted, but not listed one by one.`);
  return {
    changes: list.changes,
    causes,
    unchanged,
    notes,
    parts: list.parts,
    pairing: rowsPaired(a, b, pairing),
    edited,
  };
}

/** “Mark” of sheet “Steel”. */
function keyOf({ b, headsB }: Tables, { inB, key, rows }: SheetPair): string[] {
  if (key < 0 || rows.length === 0) return [];
  const called = columnCalled(headsB[inB] ?? [], key);
  const name = headsB[inB]?.[key] ? `“${called}”` : called;
  return [b.sheets.length > 1 ? `${name} on “${b.sheets[inB]?.name ?? ''}”` : name];
}

/** Which row of A is which of B, by their numbers among the parts. */
export function rowsPaired(a: Workbook, b: Workbook, { sheets }: TablePairing): Pairing {
  const toB = new Int32Array(a.parts.length).fill(-1);
  const toA = new Int32Array(b.parts.length).fill(-1);
  for (const { inA, inB, rows } of sheets)
    rows.forEach((j, i) => {
      if (j < 0) return;
      const [before, after] = [partOfRow(a, inA, i), partOfRow(b, inB, j)];
      toB[before] = after;
      toA[after] = before;
    });
  return { toB, toA, keysTrusted: false, renumbered: false };
}

/** Cells that both sides have. */
const bothOf = ({ rows, columns }: SheetPair): number =>
  rows.filter((j) => j >= 0).length * columns.filter((j) => j >= 0).length;
