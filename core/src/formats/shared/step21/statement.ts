/** Records as they are written: what they refer to, and what stands between their commas. */

/** Words, remarks, and numbers of other records. */
const PIECES = /'(?:[^']|'')*'|\/\*[\s\S]*?\*\/|#\d+/g;

/** Of a record or a value: the numbers that it refers to, in their order. */
export function refsOf(said: string): number[] {
  const found: number[] = [];
  for (const [piece] of bodyOf(said).matchAll(PIECES)) if (piece.startsWith('#')) found.push(Number(piece.slice(1)));
  return found;
}

/** A value or a record with other numbers in it. */
export const withRefs = (said: string, numberOf: (id: number) => number): string =>
  said.replace(PIECES, (piece) => (piece.startsWith('#') ? `#${numberOf(Number(piece.slice(1)))}` : piece));

/** What stands behind the number of a record, with its type. */
const bodyOf = (said: string): string => said.replace(/^#\d+\s*=\s*/, '');

/** A record of one type as it is written. */
export interface Statement {
  /** All that stands before the first value. */
  readonly head: string;
  readonly values: string[];
  readonly tail: string;
}

/** Undefined for records of several types, and for damaged ones. */
export function statementOf(said: string): Statement | undefined {
  const open = said.indexOf('(');
  const close = said.lastIndexOf(')');
  if (open < 0 || close < open || /=\s*$/.test(said.slice(0, open))) return undefined;
  return { head: said.slice(0, open + 1), values: valuesIn(said.slice(open + 1, close)), tail: said.slice(close) };
}

export const written = ({ head, values, tail }: Statement): string => `${head}${values.join(',')}${tail}`;

/** Values between commas that stand in no brackets and no words. */
function valuesIn(said: string): string[] {
  if (said.trim() === '') return [];
  const values: string[] = [];
  let depth = 0;
  let from = 0;
  for (let at = 0; at < said.length; at++) {
    const letter = said[at];
    if (letter === "'") at = endOfWords(said, at);
    else if (letter === '(') depth += 1;
    else if (letter === ')') depth -= 1;
    else if (letter === ',' && depth === 0) {
      values.push(said.slice(from, at));
      from = at + 1;
    }
  }
  return [...values, said.slice(from)];
}

/** Where words end that begin at a quote; quotes within are doubled. */
function endOfWords(said: string, from: number): number {
  let at = said.indexOf("'", from + 1);
  while (at >= 0 && said[at + 1] === "'") at = said.indexOf("'", at + 2);
  return at < 0 ? said.length : at;
}

/** A list of numbers of records, as a value. */
export const listed = (ids: readonly number[]): string => `(${ids.map((id) => `#${id}`).join(',')})`;
