/** What causes of tables say. Addresses are those of B; of what went, those of A. */
import { plural } from '../../text/plural.ts';
import { quoted, short } from '../phrases.ts';

type Verb = 'added' | 'removed';

interface Run {
  readonly verb: Verb;
  /** How many. */
  readonly count: number;
  /** “11”, “11–13”, “E”. */
  readonly at: string;
  /** What stands first in it, or what it is called; empty for nothing. */
  readonly called: string;
}

const words = (formula: string): string => short(formula, 60);

/** What a row or column is called, behind what was done to it. */
const called = (name: string): string => (name ? `: ${quoted(name)}` : '');

export const tableSayings = {
  'formula-to-constant': ({
    at,
    value,
    formula,
    result,
    count,
  }: {
    at: string;
    value: string;
    formula: string;
    /** What the formula had last; empty where it cannot be known. */
    result: string;
    count: number;
  }) =>
    count === 1
      ? `Formula in ${at} replaced by ${short(value)}: it was ${words(formula)}${result === '' ? '' : `, which gives ${result}`}`
      : `${plural(count, 'formula')} in ${at} replaced by values: the first was ${words(formula)}`,
  'error-came': ({ at, error, count }: { at: string; error: string; count: number }) =>
    count === 1 ? `${at} is ${error} now` : `${error} came up in ${plural(count, 'cell')}, first in ${at}`,
  'range-short': ({ at, formula, left }: { at: string; formula: string; left: string }) =>
    `${words(formula)} in ${at} leaves out row ${left}, which was added beside it`,
  'formulas-changed': ({ at, from, to, count }: { at: string; from: string; to: string; count: number }) =>
    `${count === 1 ? 'Formula' : plural(count, 'formula')} in ${at} changed: ${words(from)} → ${words(to)}`,
  'formulas-made': ({ at, to, count }: { at: string; to: string; count: number }) =>
    count === 1
      ? `${at} is worked out now: ${words(to)}`
      : `${plural(count, 'value')} in ${at} are worked out now: ${words(to)}`,
  'value-changed': ({ at, column, from, to }: { at: string; column: string; from: string; to: string }) =>
    `${at}${column ? `, ${quoted(column)}` : ''}: ${short(from)} → ${short(to)}`,
  'values-changed': ({ count, column, at }: { count: number; column: string; at: string }) =>
    `${plural(count, 'value')} changed in ${quoted(column)}, first in ${at}`,
  'text-for-number': ({ at, value, count }: { at: string; value: string; count: number }) =>
    count === 1
      ? `${at} is text now, not a number: ${quoted(value)}`
      : `${plural(count, 'number')} are text now, first in ${at}`,
  'head-changed': ({ column, from, to }: { column: string; from: string; to: string }) =>
    `Column ${column} is called ${quoted(to)} now; it was ${quoted(from)}`,
  'rows-came': ({ verb, count, at, called: name }: Run) =>
    `${count === 1 ? 'Row' : plural(count, 'row')} ${count === 1 ? at : `(${at})`} ${verb}${called(name)}`,
  'columns-came': ({ verb, count, at, called: name }: Run) =>
    `${count === 1 ? 'Column' : plural(count, 'column')} ${count === 1 ? at : `(${at})`} ${verb}${called(name)}`,
  'rows-moved': ({ count, at, from }: { count: number; at: string; from: string }) =>
    count === 1
      ? `Row ${from} moved to row ${at}`
      : `${plural(count, 'row')} moved, the first from row ${from} to row ${at}`,
  'column-moved': ({ column, from, at }: { column: string; from: string; at: string }) =>
    `Column ${quoted(column)} moved from ${from} to ${at}`,
  'rows-sorted': ({ column, way, rows }: { column: string; way: 'up' | 'down' | 'none'; rows: number }) =>
    way === 'none'
      ? `${plural(rows, 'row')} put in another order`
      : `Sorted by ${quoted(column)}${way === 'down' ? ', the largest first' : ''}: ${plural(rows, 'row')} stand elsewhere`,
  'sheet-came': ({ name, verb, rows }: { name: string; verb: Verb; rows: number }) =>
    `Sheet ${quoted(name)} ${verb}, ${plural(rows, 'row')}`,
  'sheet-copied': ({ name, of }: { name: string; of: string }) =>
    `Sheet ${quoted(name)} added as a copy of ${quoted(of)}`,
  'sheet-renamed': ({ from, to }: { from: string; to: string }) => `Sheet ${quoted(from)} is called ${quoted(to)} now`,
  'sheet-moved': ({ name, at }: { name: string; at: number }) => `Sheet ${quoted(name)} stands in place ${at} now`,
  'sheet-hidden': ({ name, hidden }: { name: string; hidden: boolean }) =>
    `Sheet ${quoted(name)} is ${hidden ? 'hidden' : 'shown'} now`,
  'lines-hidden': ({
    what,
    at,
    count,
    hidden,
  }: {
    what: 'row' | 'column';
    at: string;
    count: number;
    hidden: boolean;
  }) => `${plural(count, what)} ${hidden ? 'hidden' : 'shown again'}: ${at}`,
  recalculated: ({ count, from }: { count: number; from: string }) =>
    `${plural(count, 'cell')} recalculated${from ? `, because of ${from}` : ''}`,
  'cells-look': ({
    count,
    what,
    at,
    from,
    to,
  }: {
    count: number;
    what: 'look' | 'format';
    at: string;
    from: string;
    to: string;
  }) =>
    `${what === 'look' ? 'Look' : 'Number format'} of ${count === 1 ? at : `${plural(count, 'cell')}, first ${at}`}: ${short(from)} → ${short(to)}`,
  'cell-comments': ({ count, at, verb }: { count: number; at: string; verb: Verb | 'changed' }) =>
    count === 1 ? `Comment in ${at} ${verb}` : `${plural(count, 'comment')} ${verb}, first in ${at}`,
  'name-changed': ({ name, from, to }: { name: string; from: string; to: string }) => {
    if (from === '') return `Name ${quoted(name)} added for ${to}`;
    return to === '' ? `Name ${quoted(name)} removed` : `Name ${quoted(name)} stands for ${to} now, not for ${from}`;
  },
  'merged-changed': ({ count, verb }: { count: number; verb: 'merged' | 'parted' }) =>
    `${plural(count, 'range')} of cells ${verb}`,
};
