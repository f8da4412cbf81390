/** Changes of tables as they are listed, and what a list of causes needs to know of the sheets. */
import type { ChangeDraft } from '../../causes/draft.ts';
import type { PartSummary } from '../../contract/comparison.ts';
import { firstOf, partOfRow, type Sheet, type Workbook } from '../../model/workbook.ts';
import { cellName, columnName } from '../../text/address.ts';
import type { CellChange } from './cells.ts';
import { headRow } from './heads.ts';
import type { SheetPair, TablePairing } from './pairing.ts';

/** Changes that are listed one by one; of more, causes still tell the number. */
const MOST = 50_000;

const nowhere = { boxA: null, boxB: null, size: 0 } as const;

/** What a list of causes needs to know of the sheets. */
export interface Tables {
  readonly a: Workbook;
  readonly b: Workbook;
  readonly pairing: TablePairing;
  /** By sheet of B: what its columns are called; of A for what was removed. */
  readonly headsA: readonly (readonly string[])[];
  readonly headsB: readonly (readonly string[])[];
}

/** Changes as they are listed, with their numbers. */
export class Changes {
  readonly changes: ChangeDraft[] = [];
  /** For each change the rows that it is of, by their numbers among the parts; −1 for none. */
  readonly parts: (readonly [number, number])[] = [];
  left = 0;
  private readonly tables: Tables;

  constructor(tables: Tables) {
    this.tables = tables;
  }

  /** −1 where it is counted only. */
  add(change: ChangeDraft, rows: readonly [inA: number, inB: number] = [-1, -1]): number {
    if (this.changes.length >= MOST) {
      this.left++;
      return -1;
    }
    this.parts.push(rows);
    return this.changes.push(change) - 1;
  }

  cell({ pair, inA, inB, what }: CellChange): number {
    const { a, b, headsA, headsB } = this.tables;
    const partA = cellPart(a.sheets[pair.inA], headsA[pair.inA], inA.row, inA.column);
    const part = cellPart(b.sheets[pair.inB], headsB[pair.inB], inB.row, inB.column);
    const rows = [partOfRow(a, pair.inA, inA.row), partOfRow(b, pair.inB, inB.row)] as const;
    return this.add({ kind: 'changed', part, partA, partB: part, what: [...what], ...nowhere }, rows);
  }

  /** A row or a column that came or went, of a sheet by its number. */
  line(kind: 'row' | 'column', verb: 'added' | 'removed', sheet: number, at: number): number {
    const { a, b, headsA, headsB } = this.tables;
    const own = verb === 'added' ? b.sheets[sheet] : a.sheets[sheet];
    const heads = (verb === 'added' ? headsB[sheet] : headsA[sheet]) ?? [];
    const part = linePart(own, heads, kind, at);
    const row = kind === 'row' ? partOfRow(verb === 'added' ? b : a, sheet, at) : -1;
    const rows = verb === 'added' ? ([-1, row] as const) : ([row, -1] as const);
    const sides = verb === 'added' ? { partB: part } : { partA: part };
    return this.add({ kind: verb, part, ...sides, what: [], ...nowhere }, rows);
  }

  lineMoved(kind: 'row' | 'column', pair: SheetPair, from: number, to: number): number {
    const { a, b, headsA, headsB } = this.tables;
    const partA = linePart(a.sheets[pair.inA], headsA[pair.inA] ?? [], kind, from);
    const part = linePart(b.sheets[pair.inB], headsB[pair.inB] ?? [], kind, to);
    const what = [{ aspect: 'placement', from: partA.name, to: part.name } as const];
    const rows = kind === 'row' ? ([partOfRow(a, pair.inA, from), partOfRow(b, pair.inB, to)] as const) : undefined;
    return this.add({ kind: 'moved', part, partA, partB: part, what, ...nowhere }, rows);
  }

  sheet(verb: 'added' | 'removed' | 'changed', name: string, what: ChangeDraft['what'] = [], before = name): number {
    const part = sheetPart(name);
    const sides = {
      ...(verb === 'added' ? {} : { partA: sheetPart(before) }),
      ...(verb === 'removed' ? {} : { partB: part }),
    };
    return this.add({ kind: verb, part, ...sides, what, ...nowhere });
  }
}

const sheetPart = (name: string): PartSummary => ({ key: name, kind: 'sheet', name, category: '', page: name });

function cellPart(sheet: Sheet | undefined, heads: readonly string[] = [], row: number, column: number): PartSummary {
  const name = cellName(row, column);
  const page = sheet?.name ?? '';
  return { key: `${page}!${name}`, kind: 'cell', name, category: heads[column] ?? '', page };
}

function linePart(sheet: Sheet | undefined, heads: readonly string[], kind: 'row' | 'column', at: number): PartSummary {
  const page = sheet?.name ?? '';
  const place = kind === 'row' ? String(at + 1) : columnName(at);
  const called = kind === 'row' ? firstOf(sheet?.values[at] ?? []) : (heads[at] ?? '');
  const name = called ? `${place} ${called}` : place;
  return { key: `${page}!${kind} ${place}`, kind, name, category: '', page };
}

/** Of a cell of the row that says what columns are called. */
export const isHead = (sheet: Sheet | undefined, row: number): boolean => sheet !== undefined && headRow(sheet) === row;
