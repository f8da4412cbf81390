/** Sheets that came, went, were renamed, moved or hidden, and names that stand for something else. */
import type { CauseDraft } from '../../causes/draft.ts';
import type { Sheet } from '../../model/workbook.ts';
import type { Changes, Tables } from './listing.ts';
import { outOfOrder } from './pair-columns.ts';
import { plainFormula } from '../../text/formula.ts';
import { withinSheet } from './line-causes.ts';

export function sheetCauses(tables: Tables, list: Changes): CauseDraft[] {
  return [...came(tables, list), ...changed(tables, list), ...named(tables), ...merged(tables)];
}

function came({ a, b, pairing }: Tables, list: Changes): CauseDraft[] {
  const gone = pairing.removed.map((k): CauseDraft => {
    const { name, values } = a.sheets[k] as Sheet;
    const saying = { code: 'sheet-came', values: { name, verb: 'removed', rows: values.length } } as const;
    return { kind: 'sheet', saying, changes: listed(list.sheet('removed', name)), parts: 1 };
  });
  const come = pairing.added.map((k): CauseDraft => {
    const sheet = b.sheets[k] as Sheet;
    const number = list.sheet('added', sheet.name);
    const origin = a.sheets.find((other) => sameContent(other, sheet));
    const saying = origin
      ? ({ code: 'sheet-copied', values: { name: sheet.name, of: origin.name } } as const)
      : ({ code: 'sheet-came', values: { name: sheet.name, verb: 'added', rows: sheet.values.length } } as const);
    return { kind: 'sheet', saying, changes: listed(number), parts: 1 };
  });
  return [...gone, ...come];
}

const listed = (number: number): number[] => (number >= 0 ? [number] : []);

const sameContent = (x: Sheet, y: Sheet): boolean =>
  x.values.length === y.values.length &&
  x.values.length > 0 &&
  x.values.every((row, k) => row.join('\u0001') === y.values[k]?.join('\u0001'));

function changed({ a, b, pairing }: Tables, list: Changes): CauseDraft[] {
  const order = new Int32Array(a.sheets.length).fill(-1);
  for (const { inA, inB } of pairing.sheets) order[inA] = inB;
  const moved = outOfOrder(order);
  return pairing.sheets.flatMap(({ inA, inB }): CauseDraft[] => {
    const [from, to] = [a.sheets[inA] as Sheet, b.sheets[inB] as Sheet];
    const causes: CauseDraft[] = [];
    // A table of values has no name of its own.
    if (from.name !== to.name && a.format === b.format) {
      const what = [{ aspect: 'name', from: from.name, to: to.name } as const];
      const saying = { code: 'sheet-renamed', values: { from: from.name, to: to.name } } as const;
      causes.push({
        kind: 'sheet',
        saying,
        changes: listed(list.sheet('changed', to.name, what, from.name)),
        parts: 1,
      });
    }
    if (moved.has(inA))
      causes.push({
        kind: 'sheet',
        saying: { code: 'sheet-moved', values: { name: to.name, at: inB + 1 } },
        changes: [],
        parts: 1,
        weight: 3,
      });
    if (from.isHidden !== to.isHidden)
      causes.push({
        kind: 'sheet',
        saying: { code: 'sheet-hidden', values: { name: to.name, hidden: to.isHidden } },
        changes: [],
        parts: 1,
      });
    return causes;
  });
}

function named({ a, b }: Tables): CauseDraft[] {
  const names = new Set([...a.names.keys(), ...b.names.keys()]);
  // Programs keep filters and print areas as names of their own.
  return [...names].flatMap((name): CauseDraft[] => {
    const [from = '', to = ''] = [a.names.get(name), b.names.get(name)];
    if (name.includes('_xlnm') || (from && to && plainFormula(from) === plainFormula(to))) return [];
    return [
      {
        kind: 'formula',
        saying: { code: 'name-changed', values: { name, from, to } },
        changes: [],
        parts: 1,
        weight: 6,
      },
    ];
  });
}

function merged(tables: Tables): CauseDraft[] {
  const { a, b, pairing } = tables;
  return pairing.sheets.flatMap((pair): CauseDraft[] => {
    const [from, to] = [a.sheets[pair.inA] as Sheet, b.sheets[pair.inB] as Sheet];
    const inB = new Set(from.merged.map((range) => mergedInB(range, pair.rows, pair.columns)));
    const come = to.merged.filter((range) => !inB.has(range)).length;
    const gone = [...inB].filter((range) => range !== '' && !to.merged.includes(range)).length;
    const cause = (count: number, verb: 'merged' | 'parted'): CauseDraft[] =>
      count === 0
        ? []
        : [
            {
              kind: 'cells-look',
              saying: { code: 'merged-changed', values: { count, verb } },
              ...withinSheet(tables, pair),
              changes: [],
              parts: count,
            },
          ];
    return [...cause(come, 'merged'), ...cause(gone, 'parted')];
  });
}

/** Empty where its first or last cell is gone. */
function mergedInB(range: string, rows: Int32Array, columns: Int32Array): string {
  const [top = 0, left = 0, bottom = 0, right = 0] = range.split(' ').map(Number);
  const at = (places: Int32Array, k: number): number => (k < places.length ? (places[k] as number) : k);
  const ends = [at(rows, top), at(columns, left), at(rows, bottom), at(columns, right)];
  return ends.some((end) => end < 0) ? '' : ends.join(' ');
}
