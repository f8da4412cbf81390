/** Rows and columns that came, went, moved, were sorted or hidden. */
import type { CauseDraft } from '../../causes/draft.ts';
import { firstOf, valueAt, type Sheet } from '../../model/workbook.ts';
import { columnName, rowsName } from '../../text/address.ts';
import type { Changes, Tables } from './listing.ts';
import { outOfOrder } from './pair-columns.ts';
import type { SheetPair } from './pairing.ts';

/** Share of the rows that stand elsewhere after sorting. */
const SORTED = 0.15;
const FEW = 3;
/** Runs of lines that are told one by one. */
const MOST_RUNS = 5;

export function lineCauses(tables: Tables, pair: SheetPair, list: Changes): CauseDraft[] {
  return new Lines(tables, pair, list).causes();
}

class Lines {
  private readonly tables: Tables;
  private readonly pair: SheetPair;
  private readonly list: Changes;
  private readonly a: Sheet | undefined;
  private readonly b: Sheet | undefined;
  private readonly within: { readonly within?: { readonly page: string } };

  constructor(tables: Tables, pair: SheetPair, list: Changes) {
    this.tables = tables;
    this.pair = pair;
    this.list = list;
    this.a = tables.a.sheets[pair.inA];
    this.b = tables.b.sheets[pair.inB];
    this.within = withinSheet(tables, pair);
  }

  causes(): CauseDraft[] {
    return [
      ...this.came('row', 'removed'),
      ...this.came('row', 'added'),
      ...this.came('column', 'removed'),
      ...this.came('column', 'added'),
      ...this.rowsMoved(),
      ...this.columnsMoved(),
      ...this.hidden('row'),
      ...this.hidden('column'),
    ];
  }

  private came(kind: 'row' | 'column', verb: 'added' | 'removed'): CauseDraft[] {
    const { rows, columns, inA, inB } = this.pair;
    const toB = kind === 'row' ? rows : columns;
    const count = kind === 'row' ? (this.b?.values.length ?? 0) : (this.b?.columns ?? 0);
    const places = verb === 'removed' ? missing(toB) : without(toB, count);
    const sheet = verb === 'removed' ? this.a : this.b;
    const heads = (verb === 'removed' ? this.tables.headsA[inA] : this.tables.headsB[inB]) ?? [];
    // A row of no values is room between others.
    const told = kind === 'row' ? places.filter((row) => (sheet?.values[row]?.length ?? 0) > 0) : places;
    const runs = runsOf(told);
    // Many are one thing that was done, not as many.
    return (runs.length > MOST_RUNS ? [runs] : runs.map((run) => [run])).map((group): CauseDraft => {
      const lines = group.flatMap(([first, last]) => Array.from({ length: last - first + 1 }, (_, k) => first + k));
      const [first = 0] = lines;
      const numbers = lines.map((line) => this.list.line(kind, verb, verb === 'removed' ? inA : inB, line));
      const called = kind === 'row' ? firstOf(sheet?.values[first] ?? []) : (heads[first] ?? '');
      const name = kind === 'row' ? rowsName : columnsName;
      const named = group.slice(0, MOST_RUNS).map(([from, to]) => name(from, to));
      const at = `${named.join(', ')}${group.length > MOST_RUNS ? ' …' : ''}`;
      return {
        kind: kind === 'row' ? 'rows' : 'columns',
        saying: {
          code: kind === 'row' ? 'rows-came' : 'columns-came',
          values: { verb, count: lines.length, at, called },
        },
        ...this.within,
        changes: numbers.filter((n) => n >= 0),
        parts: lines.length,
      };
    });
  }

  private rowsMoved(): CauseDraft[] {
    const { rows } = this.pair;
    const moved = outOfOrder(rows);
    if (moved.size === 0) return [];
    const numbers = [...moved].map((i) => this.list.lineMoved('row', this.pair, i, rows[i] as number));
    const changes = numbers.filter((n) => n >= 0);
    const common = { ...this.within, changes, parts: moved.size };
    const paired = rows.filter((j) => j >= 0).length;
    const order = moved.size >= FEW && moved.size >= SORTED * paired ? this.order() : undefined;
    if (order)
      return [{ ...common, kind: 'sorted', saying: { code: 'rows-sorted', values: { ...order, rows: moved.size } } }];
    if (moved.size > 0.4 * paired && moved.size > FEW)
      return [
        {
          ...common,
          kind: 'sorted',
          saying: { code: 'rows-sorted', values: { column: '', way: 'none', rows: moved.size } },
        },
      ];
    const [first = 0] = moved;
    const values = { count: moved.size, from: String(first + 1), at: String((rows[first] as number) + 1) };
    return [{ ...common, kind: 'rows', saying: { code: 'rows-moved', values } }];
  }

  /** The column that rows stand in the order of now, and did not before. */
  private order(): { readonly column: string; readonly way: 'up' | 'down' } | undefined {
    const { a, b } = this;
    if (!a || !b) return undefined;
    const places = [...this.pair.rows].flatMap((j, i) => (j < 0 ? [] : [[i, j] as const]));
    const inB = places.map(([, j]) => j).sort((p, q) => p - q);
    const inA = places.map(([i]) => i);
    for (const [c, d] of [...this.pair.columns].entries()) {
      if (d < 0) continue;
      for (const way of ['up', 'down'] as const)
        if (isOrdered(b, inB, d, way) && !isOrdered(a, inA, c, way))
          return { column: this.tables.headsB[this.pair.inB]?.[d] || columnName(d), way };
    }
    return undefined;
  }

  private columnsMoved(): CauseDraft[] {
    const { columns, inB } = this.pair;
    return [...outOfOrder(columns)].map((i): CauseDraft => {
      const j = columns[i] as number;
      const number = this.list.lineMoved('column', this.pair, i, j);
      const column = this.tables.headsB[inB]?.[j] ?? '';
      const values = { column, from: columnName(i), at: columnName(j) };
      const changes = number >= 0 ? [number] : [];
      return { kind: 'columns', saying: { code: 'column-moved', values }, ...this.within, changes, parts: 1 };
    });
  }

  private hidden(what: 'row' | 'column'): CauseDraft[] {
    const [before, after] =
      what === 'row' ? [this.a?.hiddenRows, this.b?.hiddenRows] : [this.a?.hiddenColumns, this.b?.hiddenColumns];
    const toB = what === 'row' ? this.pair.rows : this.pair.columns;
    return [true, false].flatMap((isHidden): CauseDraft[] => {
      const places = [...toB].flatMap((j, i) => {
        const [was, is] = [before?.has(i) ?? false, after?.has(j) ?? false];
        return j >= 0 && was !== is && is === isHidden ? [j] : [];
      });
      if (places.length === 0) return [];
      const name = what === 'row' ? rowsName : columnsName;
      const at = runsOf(places.sort((p, q) => p - q))
        .map(([first, last]) => name(first, last))
        .join(', ');
      const values = { what, at, count: places.length, hidden: isHidden };
      return [
        {
          kind: 'sheet',
          saying: { code: 'lines-hidden', values },
          ...this.within,
          changes: [],
          parts: places.length,
          weight: 6,
        },
      ];
    });
  }
}

export const withinSheet = ({ b }: Tables, { inB }: SheetPair): { readonly within?: { readonly page: string } } =>
  b.sheets.length > 1 ? { within: { page: b.sheets[inB]?.name ?? '' } } : {};

/** Values of mixed kinds have no order. Equal neighbours are in order; a column of one value is not. */
function isOrdered(sheet: Sheet, rows: readonly number[], column: number, way: 'up' | 'down'): boolean {
  const values = rows.map((row) => valueAt(sheet, row, column)).filter((value) => value !== null);
  // The head stands above them.
  const body = values.slice(1);
  const [first] = body;
  if (body.length < FEW || first === undefined || body.some((value) => typeof value !== typeof first)) return false;
  let distinct = 0;
  for (let k = 1; k < body.length; k++) {
    const [p, q] = [body[k - 1], body[k]];
    const order = typeof p === 'string' ? p.localeCompare(String(q), 'en', { numeric: true }) : Number(p) - Number(q);
    if (way === 'up' ? order > 0 : order < 0) return false;
    if (order !== 0) distinct++;
  }
  return distinct > 0;
}

const missing = (toB: Int32Array): number[] => [...toB].flatMap((j, i) => (j < 0 ? [i] : []));

function without(toB: Int32Array, count: number): number[] {
  const taken = new Set(toB);
  return Array.from({ length: count }, (_, j) => j).filter((j) => !taken.has(j));
}

/** First and last of numbers that follow one another. */
export function runsOf(numbers: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const n of numbers) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  return runs;
}

const columnsName = (first: number, last: number): string =>
  first === last ? columnName(first) : `${columnName(first)}–${columnName(last)}`;
