/** What was done to cells, as few causes as a careful person would name. */
import type { CauseDraft } from '../../causes/draft.ts';
import { extraAt, WIDEST, type Sheet } from '../../model/workbook.ts';
import { cellName, columnName, rangeName } from '../../text/address.ts';
import { sayValue, columnCalled, type CellChange, type CellChangeKind, type Cells } from './cells.ts';
import { isHead, type Tables } from './listing.ts';
import { countsRows } from './heads.ts';
import { referencesIn, type Reference } from '../../text/formula.ts';
import { withinSheet, runsOf } from './line-causes.ts';
import type { SheetPair } from './pairing.ts';

/** A change of a cell, with its number in the list; −1 where it is only counted. */
export type Told = CellChange & { readonly number: number };

/** Values of a column that are told one by one. */
const ONE_BY_ONE = 3;
/** How much it matters that rows are counted anew. */
const COUNTING = 2;
/** Edited cells that are named as what others were recalculated from. */
const NAMED = 4;
/** Formulas whose cells are looked for among the edited ones. */
const MOST_FOLLOWED = 20_000;

export function cellCauses(tables: Tables, pair: SheetPair, cells: Cells, told: readonly Told[]): CauseDraft[] {
  return new CellCauses(tables, pair, cells, told).all();
}

class CellCauses {
  private readonly tables: Tables;
  private readonly pair: SheetPair;
  private readonly cells: Cells;
  private readonly told: readonly Told[];
  private readonly a: Sheet | undefined;
  private readonly b: Sheet | undefined;
  private readonly heads: readonly string[];

  constructor(tables: Tables, pair: SheetPair, cells: Cells, told: readonly Told[]) {
    this.tables = tables;
    this.pair = pair;
    this.cells = cells;
    this.told = told;
    this.a = tables.a.sheets[pair.inA];
    this.b = tables.b.sheets[pair.inB];
    this.heads = tables.headsB[pair.inB] ?? [];
  }

  all(): CauseDraft[] {
    return [
      ...this.constants(),
      ...this.errors(),
      ...this.shortRanges(),
      ...this.formulas(),
      ...this.made(),
      ...this.texts(),
      ...this.heading(),
      ...this.values(),
      ...this.comments(),
      ...this.looks('format'),
      ...this.looks('look'),
      ...this.recalculated(),
    ];
  }

  private of(kind: CellChangeKind): Told[] {
    return this.told.filter((change) => change.kind === kind);
  }

  private cause(
    kind: CauseDraft['kind'],
    saying: CauseDraft['saying'],
    changes: readonly Told[],
    weight?: number,
  ): CauseDraft {
    return {
      kind,
      saying,
      ...withinSheet(this.tables, this.pair),
      changes: changes.flatMap(({ number }) => (number >= 0 ? [number] : [])),
      parts: changes.length,
      ...(weight === undefined ? {} : { weight }),
    };
  }

  /** Runs of a column are one cause. */
  private constants(): CauseDraft[] {
    return columnRuns(this.of('constant')).map((run) => {
      const [first] = run as [Told, ...Told[]];
      const { formula = '' } = this.extraBefore(first) ?? {};
      const values = {
        at: placesOf(run),
        value: sayValue(first.to),
        // As it would stand in B, beside an address of B.
        formula: `=${this.cells.formulaInB(this.pair, formula)}`,
        result: this.stillGives(first, formula) ? sayValue(first.from) : '',
        count: run.length,
      };
      return this.cause('constant', { code: 'formula-to-constant', values }, run);
    });
  }

  private extraBefore({ inA }: Told): ReturnType<typeof extraAt> {
    return this.a && extraAt(this.a, inA.row, inA.column);
  }

  /** Whether nothing that a formula names was changed: it would give what it gave. */
  private stillGives({ to, from }: Told, formula: string): boolean {
    if (from === null || to === null) return false;
    const own = referencesIn(this.cells.formulaInB(this.pair, formula));
    return (
      own.every((reference) => reference.sheet === undefined) &&
      !this.told.some(
        ({ inB, kind }) => isValue(kind) && own.some((reference) => covers(reference, inB.row, inB.column)),
      )
    );
  }

  private errors(): CauseDraft[] {
    const byError = groupsBy(this.of('error'), ({ to }) => String(to));
    return byError.map((group) => {
      const [first] = group as [Told, ...Told[]];
      const values = { at: nameOf(first), error: sayValue(first.to), count: group.length };
      return this.cause('error', { code: 'error-came', values }, group);
    });
  }

  /** Sums beside which a row was added that they leave out. */
  private shortRanges(): CauseDraft[] {
    const { b, pair } = this;
    if (!b) return [];
    const taken = new Set(pair.rows);
    const added = b.values.flatMap((_, row) => (taken.has(row) ? [] : [row]));
    if (added.length === 0) return [];
    const causes: CauseDraft[] = [];
    for (const [number, { formula }] of b.extras) {
      if (formula === undefined || causes.length >= ONE_BY_ONE * NAMED) continue;
      const [row, column] = placeOf(number);
      for (const { sheet, from, to } of referencesIn(formula)) {
        if (sheet !== undefined || from.row === undefined || to?.row === undefined) continue;
        if (from.column === undefined || from.column !== to.column) continue;
        const [top, bottom, at] = [from.row, to.row, from.column];
        const left = added.find(
          (line) =>
            (line === bottom + 1 || line === top - 1) && line !== row && typeof b.values[line]?.[at] === 'number',
        );
        if (left === undefined || bottom - top < 1) continue;
        const values = { at: cellName(row, column), formula: `=${formula}`, left: String(left + 1) };
        causes.push({ ...this.cause('formula', { code: 'range-short', values }, [], 17), parts: 1 });
      }
    }
    return causes;
  }

  /** What was changed alike in a column is one cause, and in neighbouring ones, too. */
  private formulas(): CauseDraft[] {
    return groupsBy(this.of('formula'), ({ inB, filled }) => `${inB.column} ${filled?.join(' → ')}`).map((group) => {
      const [first] = group as [Told, ...Told[]];
      const said = first.what.find(({ aspect }) => aspect === 'formula');
      const values = { at: placesOf(group), from: said?.from ?? '', to: said?.to ?? '', count: group.length };
      return this.cause('formula', { code: 'formulas-changed', values }, group);
    });
  }

  private made(): CauseDraft[] {
    return groupsBy(this.of('made-formula'), ({ inB, filled }) => `${inB.column} ${filled?.[1]}`).map((group) => {
      const [first] = group as [Told, ...Told[]];
      const values = { at: placesOf(group), to: first.what[0]?.to ?? '', count: group.length };
      return this.cause('formula', { code: 'formulas-made', values }, group);
    });
  }

  private texts(): CauseDraft[] {
    return groupsBy(this.of('text-for-number'), ({ inB }) => String(inB.column)).map((group) => {
      const [first] = group as [Told, ...Told[]];
      const values = { at: nameOf(first), value: sayValue(first.to), count: group.length };
      return this.cause('values', { code: 'text-for-number', values }, group, 14);
    });
  }

  private heading(): CauseDraft[] {
    return this.of('value').flatMap((change) => {
      if (!isHead(this.b, change.inB.row) || !isHead(this.a, change.inA.row)) return [];
      const values = { column: columnName(change.inB.column), from: sayValue(change.from), to: sayValue(change.to) };
      return [this.cause('columns', { code: 'head-changed', values }, [change])];
    });
  }

  private values(): CauseDraft[] {
    const body = this.of('value').filter(({ inA, inB }) => !isHead(this.b, inB.row) || !isHead(this.a, inA.row));
    return groupsBy(body, ({ inB }) => String(inB.column)).flatMap((group) => {
      if (group.length <= ONE_BY_ONE)
        return group.map((change) => {
          const formula = this.extraBefore(change)?.formula;
          const values = {
            at: nameOf(change),
            column: this.heads[change.inB.column] ?? '',
            from: formula === undefined ? sayValue(change.from) : `=${formula}`,
            to: sayValue(change.to),
          };
          return this.cause('values', { code: 'value-changed', values }, [change]);
        });
      const [first] = group as [Told, ...Told[]];
      const column = columnCalled(this.heads, first.inB.column);
      const values = { count: group.length, column, at: nameOf(first) };
      return [
        this.cause('values', { code: 'values-changed', values }, group, this.onlyCounts(first) ? COUNTING : undefined),
      ];
    });
  }

  private onlyCounts({ inA, inB }: Told): boolean {
    const { a, b } = this;
    return a !== undefined && b !== undefined && countsRows(a, inA.column) && countsRows(b, inB.column);
  }

  private comments(): CauseDraft[] {
    const verbOf = ({ what }: Told): 'added' | 'removed' | 'changed' => {
      if (what[0]?.from === 'none') return 'added';
      return what[0]?.to === 'none' ? 'removed' : 'changed';
    };
    return groupsBy(this.of('comment'), verbOf).map((group) => {
      const [first] = group as [Told, ...Told[]];
      const values = { count: group.length, at: nameOf(first), verb: verbOf(first) };
      return this.cause('cells-look', { code: 'cell-comments', values }, group, 6);
    });
  }

  private looks(what: 'look' | 'format'): CauseDraft[] {
    return groupsBy(this.of(what), (change) => `${change.what[0]?.from} → ${change.what[0]?.to}`).map((group) => {
      const [first] = group as [Told, ...Told[]];
      const { from = '', to = '' } = first.what[0] ?? {};
      const values = { count: group.length, what, at: nameOf(first), from, to };
      return this.cause('cells-look', { code: 'cells-look', values }, group);
    });
  }

  /** With the edited cells that they follow from. */
  private recalculated(): CauseDraft[] {
    const group = this.of('recalculated');
    if (group.length === 0) return [];
    const values = { count: group.length, from: this.rootsOf(group).join(', ') };
    return [this.cause('recalculated', { code: 'recalculated', values }, group, 1.5)];
  }

  private rootsOf(group: readonly Told[]): string[] {
    const { b, pair } = this;
    if (!b) return [];
    const edited = this.told.filter(({ kind }) => isValue(kind) && kind !== 'recalculated');
    const taken = new Set(pair.rows);
    const added = b.values.flatMap((_, row) => (taken.has(row) ? [] : [row]));
    const cells = new Set<string>();
    const rows = new Set<number>();
    for (const { inB } of group.slice(0, MOST_FOLLOWED)) {
      const formula = extraAt(b, inB.row, inB.column)?.formula;
      for (const reference of formula === undefined ? [] : referencesIn(formula)) {
        if (reference.sheet !== undefined) continue;
        for (const change of edited)
          if (covers(reference, change.inB.row, change.inB.column)) cells.add(nameOf(change));
        for (const row of added) if (covers(reference, row, inB.column)) rows.add(row);
      }
      if (cells.size > NAMED) break;
    }
    const named = [...cells].slice(0, NAMED);
    const more = cells.size > NAMED ? ['others'] : [];
    const lines = runsOf([...rows].sort((p, q) => p - q)).slice(0, NAMED);
    const said = lines.map(([first, last]) => (first === last ? `row ${first + 1}` : `rows ${first + 1}–${last + 1}`));
    return [...named, ...said, ...more];
  }
}

const isValue = (kind: CellChangeKind): boolean => kind !== 'look' && kind !== 'format' && kind !== 'comment';

function covers({ sheet, from, to }: Reference, row: number, column: number): boolean {
  if (sheet !== undefined) return false;
  const last = to ?? from;
  const isWithin = (value: number, low: number | undefined, high: number | undefined): boolean =>
    low === undefined || high === undefined || (value >= Math.min(low, high) && value <= Math.max(low, high));
  return isWithin(row, from.row, last.row) && isWithin(column, from.column, last.column);
}

const nameOf = ({ inB }: Told): string => cellName(inB.row, inB.column);

function placeOf(number: number): [number, number] {
  const column = number % WIDEST;
  return [(number - column) / WIDEST, column];
}

/** “D5:D9, D12”, of one column. */
function placesOf(group: readonly Told[]): string {
  const column = group[0]?.inB.column ?? 0;
  const runs = runsOf(group.map(({ inB }) => inB.row).sort((p, q) => p - q));
  const named = runs.slice(0, NAMED).map(([first, last]) => rangeName(column, first, last));
  return `${named.join(', ')}${runs.length > NAMED ? ' …' : ''}`;
}

/** Changes of neighbouring rows of one column, from top to bottom. */
function columnRuns(changes: readonly Told[]): Told[][] {
  const sorted = [...changes].sort((p, q) => p.inB.column - q.inB.column || p.inB.row - q.inB.row);
  const runs: Told[][] = [];
  for (const change of sorted) {
    const last = runs.at(-1)?.at(-1);
    const isNext = last?.inB.column === change.inB.column && last.inB.row + 1 === change.inB.row;
    if (isNext) runs.at(-1)?.push(change);
    else runs.push([change]);
  }
  return runs;
}

/** In the order in which each was first met. */
function groupsBy(changes: readonly Told[], by: (change: Told) => string): Told[][] {
  const groups = new Map<string, Told[]>();
  for (const change of changes) {
    const key = by(change);
    const group = groups.get(key) ?? [];
    group.push(change);
    groups.set(key, group);
  }
  return [...groups.values()];
}
