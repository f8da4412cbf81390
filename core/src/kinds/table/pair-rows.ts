/** Which row of a sheet is which of the other: the same ones first, then those of one key, then those that are alike. */
import { bestInOrder, pairInSequence, placesOnce } from '../../match/in-sequence.ts';
import { extraAt, valueAt, type Sheet } from '../../model/workbook.ts';
import { filledFormula } from '../../text/formula.ts';
import { countsRows, type KeyColumns } from './heads.ts';

/** Between what the cells of a row say. */
const BETWEEN = '\u0001';
/** Rows of runs that are paired by their likeness, one with another, at most. */
const MOST_PAIRS = 250_000;
/** Share of values that are the same in rows that are alike. */
const ALIKE = 0.34;
/** How much two formulas of one column have in common that are not the same. */
const HALF = 0.5;
/** Values of a row that make it known anywhere. */
const TELLING = 2;

/** For each row of A its place in B, −1 for none. `columns`: of A's columns, B's. */
export function pairRows(a: Sheet, b: Sheet, columns: Int32Array, keys: KeyColumns | undefined): Int32Array {
  return new Rows(a, b, columns, keys).paired();
}

class Rows {
  private readonly a: Sheet;
  private readonly b: Sheet;
  private readonly keys: KeyColumns | undefined;
  /** Columns that both have, but for those that only count. */
  private readonly shared: readonly (readonly [number, number])[];
  private readonly words: readonly [Map<number, string[]>, Map<number, string[]>] = [new Map(), new Map()];
  private readonly toB: Int32Array;
  private readonly toA: Int32Array;

  constructor(a: Sheet, b: Sheet, columns: Int32Array, keys: KeyColumns | undefined) {
    this.a = a;
    this.b = b;
    this.keys = keys;
    this.shared = [...columns].flatMap((j, i) =>
      j < 0 || (countsRows(a, i) && countsRows(b, j)) ? [] : [[i, j] as const],
    );
    this.toB = new Int32Array(a.values.length).fill(-1);
    this.toA = new Int32Array(b.values.length).fill(-1);
  }

  paired(): Int32Array {
    const [x, y] = [this.said(this.a, 0), this.said(this.b, 1)];
    const runs: (readonly [number, number, number, number])[] = [];
    pairInSequence(x, y, this.pair, (...run) => runs.push(run));
    this.pairElsewhere(x, y, (row) => isTelling(row));
    if (this.keys) this.pairElsewhere(this.keysOf(this.a, this.keys.inA), this.keysOf(this.b, this.keys.inB), Boolean);
    for (const run of runs) this.pairAlike(run);
    return this.toB;
  }

  private readonly pair = (i: number, j: number): void => {
    this.toB[i] = j;
    this.toA[j] = i;
  };

  /** What each row says; formulas as they are told from where they stand. */
  private said(sheet: Sheet, side: 0 | 1): string[] {
    const isAll = this.shared.length === sheet.columns && this.shared.every((pair, k) => pair[side] === k);
    if (isAll && sheet.extras.size === 0) return sheet.values.map((row) => row.join(BETWEEN));
    return sheet.values.map((_, row) => this.shared.map((pair) => saidIn(sheet, row, pair[side])).join(BETWEEN));
  }

  private keysOf(sheet: Sheet, column: number): string[] {
    return sheet.values.map((_, row) => {
      const value = valueAt(sheet, row, column);
      return value === null ? '' : String(value);
    });
  }

  /** Of what is left, what stands once on both sides, wherever it stands. */
  private pairElsewhere(x: readonly string[], y: readonly string[], counts: (said: string) => boolean): void {
    const [inX, inY] = [placesOnce(x), placesOnce(y)];
    for (const [said, i] of inX) {
      const j = inY.get(said) ?? -1;
      if (i < 0 || j < 0 || this.toB[i] !== -1 || this.toA[j] !== -1 || !counts(said)) continue;
      this.pair(i, j);
    }
  }

  /** In a run, rows that are left, in their order. */
  private pairAlike([x0, x1, y0, y1]: readonly [number, number, number, number]): void {
    const left = (from: number, to: number, places: Int32Array): number[] =>
      Array.from({ length: to - from }, (_, k) => from + k).filter((k) => places[k] === -1);
    const [rowsA, rowsB] = [left(x0, x1, this.toB), left(y0, y1, this.toA)];
    if (rowsA.length * rowsB.length > MOST_PAIRS) {
      for (let k = 0; k < Math.min(rowsA.length, rowsB.length); k++) {
        const [i, j] = [rowsA[k] as number, rowsB[k] as number];
        if (this.likeness(i, j) >= ALIKE) this.pair(i, j);
      }
      return;
    }
    const alike = rowsA.map((i) => Float64Array.from(rowsB, (j) => this.likeness(i, j)));
    for (const [i, j] of bestInOrder(alike, ALIKE)) this.pair(rowsA[i] as number, rowsB[j] as number);
  }

  /** What the cells of a row say that is compared with many. */
  private wordsOf(side: 0 | 1, row: number): readonly string[] {
    const known = this.words[side].get(row);
    if (known) return known;
    const sheet = side === 0 ? this.a : this.b;
    const words = this.shared.map((pair) => saidIn(sheet, row, pair[side]));
    this.words[side].set(row, words);
    return words;
  }

  /** Share of the values of either that are the same. */
  private likeness(i: number, j: number): number {
    let [same, all] = [0, 0];
    const [rowA, rowB] = [this.wordsOf(0, i), this.wordsOf(1, j)];
    for (let k = 0; k < rowA.length; k++) {
      const [x, y] = [rowA[k], rowB[k]];
      if (x === '' && y === '') continue;
      all++;
      if (x === y) same++;
      // A formula that takes in one row more is the same one, changed.
      else if (x?.startsWith('=') && y?.startsWith('=')) same += HALF;
    }
    return all === 0 ? 1 : same / all;
  }
}

function saidIn(sheet: Sheet, row: number, column: number): string {
  const formula = extraAt(sheet, row, column)?.formula;
  if (formula !== undefined) return `=${filledFormula(formula, row, column)}`;
  const value = valueAt(sheet, row, column);
  if (value === null) return '';
  return String(value);
}

/** A row of one value is found anywhere. */
const isTelling = (row: string): boolean => row.split(BETWEEN).filter(Boolean).length >= TELLING;
