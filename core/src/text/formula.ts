/** Formulas as words and places, so that they can be told where they stand and where they went. */
import { columnName, columnOf } from './address.ts';

/** A cell that a formula names: each direction fixed by a sign, or told from where the formula stands. */
export interface Place {
  readonly row: number;
  readonly column: number;
  readonly fixedRow: boolean;
  readonly fixedColumn: boolean;
}

/** One cell, or all between two; a whole column has no rows, a whole row no columns. */
export interface Reference {
  /** As it is written, without the sign behind it; undefined for the formula's own sheet. */
  readonly sheet: string | undefined;
  readonly from: Partial<Place>;
  readonly to: Partial<Place> | undefined;
}

type Token = string | Reference;

const SHEET = String.raw`(?:('(?:[^']|'')+'|[\p{L}_][\p{L}\p{N}_.]*|\[\d+\][\p{L}\p{N}_. ]*)!)?`;
const CELL = String.raw`(\$?)([A-Za-z]{1,3})(\$?)(\d{1,7})`;
const TOKEN = new RegExp(
  [
    String.raw`"(?:[^"]|"")*"`,
    `${SHEET}${CELL}(?::${CELL})?(?![\\p{L}\\p{N}_(.])`,
    `${SHEET}(\\$?)([A-Za-z]{1,3}):(\\$?)([A-Za-z]{1,3})(?![\\p{L}\\p{N}_(.])`,
    `${SHEET}(\\$?)(\\d{1,7}):(\\$?)(\\d{1,7})(?![\\p{L}\\p{N}_(.])`,
    String.raw`\d+(?:\.\d*)?(?:[eE][+-]?\d+)?`,
    String.raw`[\p{L}_\\][\p{L}\p{N}_.\\]*`,
    String.raw`[^]`,
  ].join('|'),
  'gu',
);

/** Words stay as they are, but in capitals and without blanks; text in quotation marks stays as it is. */
function tokensOf(formula: string): Token[] {
  const tokens: Token[] = [];
  for (const hit of formula.matchAll(TOKEN)) {
    const [whole] = hit;
    if (whole.trim() === '') continue;
    tokens.push(whole.startsWith('"') ? whole : (referenceIn(hit) ?? whole.toUpperCase()));
  }
  return tokens;
}

function referenceIn(hit: RegExpExecArray): Reference | undefined {
  const [, sheet, c1, column, r1, row, c2, column2, r2, row2] = hit;
  if (column !== undefined && row !== undefined) {
    const to = column2 !== undefined && row2 !== undefined ? place(c2, column2, r2, row2) : undefined;
    return { sheet, from: place(c1, column, r1, row), to };
  }
  const [wide, w1, first, w2, last] = hit.slice(10);
  if (first !== undefined && last !== undefined)
    return { sheet: wide, from: ofColumn(w1, first), to: ofColumn(w2, last) };
  const [tall, t1, top, t2, bottom] = hit.slice(15);
  if (top !== undefined && bottom !== undefined) return { sheet: tall, from: ofRow(t1, top), to: ofRow(t2, bottom) };
  return undefined;
}

const ofColumn = (sign: string | undefined, name: string): Partial<Place> => ({
  column: columnOf(name),
  fixedColumn: sign === '$',
});
const ofRow = (sign: string | undefined, number: string): Partial<Place> => ({
  row: Number(number) - 1,
  fixedRow: sign === '$',
});
const place = (c: string | undefined, column: string, r: string | undefined, row: string): Place => ({
  row: Number(row) - 1,
  column: columnOf(column),
  fixedRow: r === '$',
  fixedColumn: c === '$',
});

export const referencesIn = (formula: string): Reference[] =>
  tokensOf(formula).filter((token): token is Reference => typeof token !== 'string');

const written = ({ row, column, fixedRow, fixedColumn }: Partial<Place>): string =>
  `${column === undefined ? '' : `${fixedColumn ? '$' : ''}${columnName(column)}`}${
    row === undefined ? '' : `${fixedRow ? '$' : ''}${row + 1}`
  }`;

const said = (tokens: readonly Token[], sayPlace: (place: Partial<Place>) => string): string =>
  tokens
    .map((token) =>
      typeof token === 'string'
        ? token
        : `${token.sheet === undefined ? '' : `${token.sheet}!`}${sayPlace(token.from)}${token.to ? `:${sayPlace(token.to)}` : ''}`,
    )
    .join('');

/** The same for formulas that differ only in how they are spelled. */
export const plainFormula = (formula: string): string => said(tokensOf(formula), written);

/** The same for a formula that was filled down or to the right: places are told from where it stands. */
export function filledFormula(formula: string, row: number, column: number): string {
  const along = (value: number | undefined, own: number, fixed = false): string => {
    if (value === undefined) return '';
    return fixed ? `[${value}]` : `(${value - own})`;
  };
  return said(
    tokensOf(formula),
    (at) => `R${along(at.row, row, at.fixedRow)}C${along(at.column, column, at.fixedColumn)}`,
  );
}

/** As it stands in another cell when it is filled there. */
export function formulaMoved(formula: string, rows: number, columns: number): string {
  const moved = (at: Partial<Place>): Partial<Place> => ({
    ...at,
    ...(at.row === undefined || at.fixedRow ? {} : { row: at.row + rows }),
    ...(at.column === undefined || at.fixedColumn ? {} : { column: at.column + columns }),
  });
  return said(tokensOf(formula), (at) => written(moved(at)));
}

/** Where the places of a sheet went: of A's rows and columns, B's; −1 for what is gone. */
export interface Way {
  readonly rows: Int32Array;
  readonly columns: Int32Array;
}

/**
 * What a formula of A would say in B, when rows and columns came and went. Ends of ranges that are gone move inwards.
 * `wayOf` knows the sheet that a reference names, and by what name it goes in B.
 */
export function formulaInB(
  formula: string,
  wayOf: (sheet: string | undefined) => { readonly way: Way; readonly sheet: string | undefined } | undefined,
  ranges: 'by their ends' | 'by all they hold' = 'by their ends',
): string {
  const tokens = tokensOf(formula).map((token): Token => {
    if (typeof token === 'string') return token;
    const known = wayOf(token.sheet);
    if (!known) return token;
    const held = ranges === 'by all they hold' ? heldInB(token, known.way, known.sheet) : undefined;
    return held ?? referenceInB(token, known.way, known.sheet);
  });
  return said(tokens, written);
}

function referenceInB({ from, to }: Reference, { rows, columns }: Way, sheet: string | undefined): Reference | string {
  const isRange = to !== undefined;
  const step = (at: number, places: Int32Array, inwards: 1 | -1): number | undefined => {
    // Beyond what is used nothing was moved but by what came and went before it.
    if (at >= places.length) return at + shiftAt(places);
    const there = places[at] as number;
    if (there >= 0) return there;
    if (!isRange) return undefined;
    for (let k = at + inwards; k >= 0 && k < places.length; k += inwards)
      if ((places[k] as number) >= 0) return places[k];
    return undefined;
  };
  const moved = (at: Partial<Place>, inwards: 1 | -1): Partial<Place> | undefined => {
    const row = at.row === undefined ? undefined : step(at.row, rows, inwards);
    const column = at.column === undefined ? undefined : step(at.column, columns, inwards);
    const isLost = (at.row !== undefined && row === undefined) || (at.column !== undefined && column === undefined);
    if (isLost) return undefined;
    return { ...at, ...(row === undefined ? {} : { row }), ...(column === undefined ? {} : { column }) };
  };
  const [first, last] = [moved(from, 1), to && moved(to, -1)];
  return first && (last || !isRange) ? { sheet, from: first, to: last } : '#REF!';
}

/** A range of rows that were put in another order holds what it held. Undefined for what is no range of rows. */
function heldInB({ from, to }: Reference, { rows, columns }: Way, sheet: string | undefined): Reference | undefined {
  if (from.row === undefined || to?.row === undefined || to.row >= rows.length) return undefined;
  const held = rows.slice(from.row, to.row + 1).filter((row) => row >= 0);
  if (held.length === 0) return undefined;
  const columnOfB = (at: Partial<Place>): Partial<Place> =>
    at.column === undefined ? at : { ...at, column: columns[at.column] ?? at.column };
  return {
    sheet,
    from: { ...columnOfB(from), row: held.reduce((least, row) => Math.min(least, row)) },
    to: { ...columnOfB(to), row: held.reduce((most, row) => Math.max(most, row)) },
  };
}

/** By how much what lies behind the used places was moved. */
function shiftAt(places: Int32Array): number {
  for (let k = places.length - 1; k >= 0; k--) if ((places[k] as number) >= 0) return (places[k] as number) - k;
  return 0;
}

/** `of:=[.B2]*[$Other.C3]` in the manner of the other formats (OpenFormula 1.3, 5.8). */
export function plainOpenFormula(formula: string): string {
  return formula
    .replace(/^(?:of|oooc|msoxl):=?|^=/, '')
    .replace(/\[([^\]]*)\]/g, (_, inside: string) => {
      const ends = inside.split(':').map((end) => /^(?:(\$?(?:'(?:[^']|'')*'|[^.]*))\.)?(.*)$/.exec(end));
      const sheet = ends[0]?.[1]?.replace(/^\$/, '');
      return `${sheet ? `${sheet}!` : ''}${ends.map((end) => end?.[2] ?? '').join(':')}`;
    })
    .replace(/;/g, ',');
}
