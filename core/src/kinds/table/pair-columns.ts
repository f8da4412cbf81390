/** Which column of a sheet is which of the other: by what they are called and what stands in them. */
import { bestInOrder, longestIncreasing, pairInSequence } from '../../match/in-sequence.ts';
import { extraAt, valueAt, type CellValue, type Sheet } from '../../model/workbook.ts';
import { filledFormula } from '../../text/formula.ts';
import { headsOf } from './heads.ts';

/** Sheets of more columns are paired by their heads alone. */
const MANY = 400;
/** Rows of which all values are looked at; of longer sheets, about as many values, the same ones on both sides. */
const SAMPLE = 2000;
/** How alike columns must be that stand in order, and those that do not. */
const [ALIKE, SURE] = [0.3, 0.55];
/** Of the likeness: how much lies in what they are called. */
const CALLED = 0.45;

/** For each column of A its place in B, −1 for none. */
export function pairColumns(a: Sheet, b: Sheet): Int32Array {
  const toB = new Int32Array(a.columns).fill(-1);
  const [headsA, headsB] = [headsOf(a), headsOf(b)];
  if (Math.max(a.columns, b.columns) > MANY) {
    const named = (heads: readonly string[]): string[] => heads.map((head, k) => head || `column ${k}`);
    pairInSequence(
      named(headsA),
      named(headsB),
      (i, j) => {
        toB[i] = j;
      },
      (x0, x1, y0, y1) => {
        for (let k = 0; k < Math.min(x1 - x0, y1 - y0); k++) toB[x0 + k] = y0 + k;
      },
    );
    return toB;
  }
  const [seenA, seenB] = [seenColumns(a), seenColumns(b)];
  const alike = seenA.map((x, i) => seenB.map((y, j) => likeness(x, y, headsA[i] ?? '', headsB[j] ?? '')));
  const taken = new Set<number>();
  for (const [i, j] of bestInOrder(alike, ALIKE)) {
    toB[i] = j;
    taken.add(j);
  }
  const rest: [number, number, number][] = [];
  alike.forEach((row, i) =>
    row.forEach((value, j) => {
      if (toB[i] === -1 && !taken.has(j) && value >= SURE) rest.push([value, i, j]);
    }),
  );
  for (const [, i, j] of rest.sort((p, q) => q[0] - p[0])) {
    if (toB[i] !== -1 || taken.has(j)) continue;
    toB[i] = j;
    taken.add(j);
  }
  return toB;
}

/** How often each value stands in a column; formulas by what they say where they stand. */
type Seen = ReadonlyMap<string, number>;

function seenColumns(sheet: Sheet): Seen[] {
  const every = Math.max(1, Math.ceil(sheet.values.length / SAMPLE));
  const seen = Array.from({ length: sheet.columns }, () => new Map<string, number>());
  for (let row = 0; row < sheet.values.length; row++)
    for (let column = 0; column < sheet.columns; column++) {
      const formula = extraAt(sheet, row, column)?.formula;
      const value = valueAt(sheet, row, column);
      if (formula === undefined && (value === null || !isOfSample(value, every))) continue;
      const said = formula === undefined ? String(value) : `=${filledFormula(formula, row, column)}`;
      const counts = seen[column];
      counts?.set(said, (counts.get(said) ?? 0) + 1);
    }
  return seen;
}

/** What is looked at follows from the value, not from its row: rows come and go. */
function isOfSample(value: Exclude<CellValue, null>, every: number): boolean {
  if (every === 1) return true;
  if (typeof value === 'number') return Math.abs(Math.round(value * 1000)) % every === 0;
  if (typeof value === 'boolean') return true;
  return (31 * value.length + 7 * value.charCodeAt(value.length - 1) + value.charCodeAt(0)) % every === 0;
}

function likeness(x: Seen, y: Seen, headX: string, headY: string): number {
  const [sizeX, sizeY] = [sum(x), sum(y)];
  if (sizeX === 0 && sizeY === 0) return ALIKE;
  let shared = 0;
  for (const [value, count] of x) shared += Math.min(count, y.get(value) ?? 0);
  const content = shared / Math.max(1, sizeX, sizeY);
  if (headX === '' && headY === '') return content;
  const called = headX.toLowerCase() === headY.toLowerCase() ? 1 : 0;
  return CALLED * called + (1 - CALLED) * content;
}

const sum = (counts: Seen): number => [...counts.values()].reduce((total, n) => total + n, 0);

/** Places of A that are paired out of their order. */
export function outOfOrder(toB: Int32Array): Set<number> {
  const pairs: [number, number][] = [];
  toB.forEach((j, i) => {
    if (j >= 0) pairs.push([i, j]);
  });
  const kept = new Set(longestIncreasing([...pairs]).map(([i]) => i));
  return new Set(pairs.flatMap(([i]) => (kept.has(i) ? [] : [i])));
}
