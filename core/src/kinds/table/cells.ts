/** What differs between two cells of one pair of rows and columns. */
import type { Difference } from '../../contract/comparison.ts';
import { extraAt, valueAt, type CellValue, type Sheet, type Workbook } from '../../model/workbook.ts';
import { columnName } from '../../text/address.ts';
import { filledFormula, formulaInB, plainFormula, type Way } from '../../text/formula.ts';
import type { SheetPair, TablePairing } from './pairing.ts';

export interface CellPlace {
  readonly row: number;
  readonly column: number;
}

export type CellChangeKind =
  | 'constant'
  | 'made-formula'
  | 'formula'
  | 'value'
  | 'text-for-number'
  | 'error'
  | 'recalculated'
  | 'look'
  | 'format'
  | 'comment';

export interface CellChange {
  readonly kind: CellChangeKind;
  readonly pair: SheetPair;
  readonly inA: CellPlace;
  readonly inB: CellPlace;
  readonly what: readonly Difference[];
  readonly from: CellValue;
  readonly to: CellValue;
  /** As they are told from where they stand, of formulas that were filled down. */
  readonly filled?: readonly [from: string, to: string];
}

const ERROR = /^#(?:REF!|DIV\/0!|VALUE!|NAME\?|N\/A|NUM!|NULL!|SPILL!|CALC!)$/;
const isError = (value: CellValue): boolean => typeof value === 'string' && ERROR.test(value);

/** Numbers that programs write with more or fewer digits are the same. */
const SLACK = 1e-12;

function sameValue(x: CellValue, y: CellValue): boolean {
  if (x === y) return true;
  if (typeof x !== 'number' || typeof y !== 'number') return false;
  return Math.abs(x - y) <= SLACK * Math.max(Math.abs(x), Math.abs(y));
}

export const sayValue = (value: CellValue): string => {
  if (value === null) return 'empty';
  if (typeof value === 'boolean') return value ? 'TRUE' : 'FALSE';
  return typeof value === 'number' ? String(Number(value.toPrecision(12))) : value;
};

/** Finds what differs in the cells of a pair of sheets that both have. */
export class Cells {
  private readonly a: Workbook;
  private readonly b: Workbook;
  private readonly pairing: TablePairing;

  constructor(a: Workbook, b: Workbook, pairing: TablePairing) {
    this.a = a;
    this.b = b;
    this.pairing = pairing;
  }

  /** Row by row of B. */
  *changesOf(pair: SheetPair): Generator<CellChange> {
    const [a, b] = [this.a.sheets[pair.inA], this.b.sheets[pair.inB]];
    if (!a || !b) return;
    const rows = pairsOf(pair.rows);
    const columns = pairsOf(pair.columns);
    for (const [i, j] of rows)
      for (const [c, d] of columns) {
        const change = this.changeOf(pair, a, b, { row: i, column: c }, { row: j, column: d });
        if (change) yield change;
      }
  }

  /** What A's formula would say in B. */
  formulaInB(pair: SheetPair, formula: string, ranges?: Parameters<typeof formulaInB>[2]): string {
    return formulaInB(formula, (sheet) => this.wayOf(pair, sheet), ranges);
  }

  private isSame(pair: SheetPair, was: string, is: string): boolean {
    if (sameFormula(this.formulaInB(pair, was), is)) return true;
    return was.includes(':') && sameFormula(this.formulaInB(pair, was, 'by all they hold'), is);
  }

  private wayOf(own: SheetPair, sheet: string | undefined): { way: Way; sheet: string | undefined } | undefined {
    if (sheet === undefined) return { way: own, sheet };
    const name = sheet.replace(/^'|'$/g, '').replaceAll("''", "'");
    const pair = this.pairing.sheets.find(({ inA }) => this.a.sheets[inA]?.name.toLowerCase() === name.toLowerCase());
    const known = pair && this.b.sheets[pair.inB]?.name;
    if (!pair || known === undefined) return undefined;
    return { way: pair, sheet: known.toLowerCase() === name.toLowerCase() ? sheet : quotedSheet(known) };
  }

  private changeOf(pair: SheetPair, a: Sheet, b: Sheet, inA: CellPlace, inB: CellPlace): CellChange | undefined {
    const [from, to] = [valueAt(a, inA.row, inA.column), valueAt(b, inB.row, inB.column)];
    const [before, after] = [extraAt(a, inA.row, inA.column), extraAt(b, inB.row, inB.column)];
    if (before === undefined && after === undefined && sameValue(from, to)) return undefined;
    const [was, is] = [before?.formula, after?.formula];
    const common = { pair, inA, inB, from, to };
    const values: Difference[] = sameValue(from, to)
      ? []
      : [{ aspect: 'value', from: sayValue(from), to: sayValue(to) }];
    if (was !== undefined && is !== undefined) {
      if (!this.isSame(pair, was, is)) {
        const expected = this.formulaInB(pair, was);
        const what: Difference[] = [{ aspect: 'formula', from: `=${was}`, to: `=${is}` }, ...values];
        const filled = [filledFormula(expected, inB.row, inB.column), filledFormula(is, inB.row, inB.column)] as const;
        return { ...common, kind: isError(to) && !isError(from) ? 'error' : 'formula', what, filled };
      }
      if (values.length > 0)
        return { ...common, kind: isError(to) && !isError(from) ? 'error' : 'recalculated', what: values };
    } else if (was !== undefined) {
      const what: Difference[] = [{ aspect: 'formula', from: `=${was}`, to: sayValue(to) }, ...values];
      return { ...common, kind: to === null ? 'value' : 'constant', what };
    } else if (is !== undefined) {
      const what: Difference[] = [{ aspect: 'formula', from: sayValue(from), to: `=${is}` }, ...values];
      return { ...common, kind: 'made-formula', what, filled: ['', filledFormula(is, inB.row, inB.column)] };
    } else if (values.length > 0) return { ...common, kind: valueKind(from, to), what: values };
    return dressed(common, before, after);
  }
}

type Common = Omit<CellChange, 'kind' | 'what'>;
type Extra = ReturnType<typeof extraAt>;

/** What is seen of a cell beside its value. */
function dressed(common: Common, before: Extra, after: Extra): CellChange | undefined {
  const differs = (aspect: 'format' | 'comment' | 'style', from = '', to = ''): Difference[] =>
    from === to ? [] : [{ aspect, from: from || 'none', to: to || 'none' }];
  const comment = differs('comment', before?.comment, after?.comment);
  if (comment.length > 0) return { ...common, kind: 'comment', what: comment };
  const format = differs('format', before?.format, after?.format);
  const look = differs('style', before?.look, after?.look);
  if (format.length > 0) return { ...common, kind: 'format', what: [...format, ...look] };
  return look.length > 0 ? { ...common, kind: 'look', what: look } : undefined;
}

function valueKind(from: CellValue, to: CellValue): CellChangeKind {
  if (isError(to) && !isError(from)) return 'error';
  const isNumber = typeof to === 'string' && to.trim() !== '' && Number.isFinite(Number(to.replace(',', '.')));
  return typeof from === 'number' && isNumber ? 'text-for-number' : 'value';
}

const sameFormula = (x: string, y: string): boolean => x === y || plainFormula(x) === plainFormula(y);

const quotedSheet = (name: string): string =>
  /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(name) ? name : `'${name.replaceAll("'", "''")}'`;

/** In the order of B. */
function pairsOf(toB: Int32Array): [number, number][] {
  const pairs: [number, number][] = [];
  toB.forEach((j, i) => {
    if (j >= 0) pairs.push([i, j]);
  });
  return pairs.sort((p, q) => p[1] - q[1]);
}

/** “Mass (kg)”, or “column E”. */
export const columnCalled = (heads: readonly string[], column: number): string =>
  heads[column] || `column ${columnName(column)}`;
