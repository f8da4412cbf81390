/** Pictures put together square by square: what theirs painted since the base comes into ours, where ours did not. */
import { unite, type Box } from '../geometry/box.ts';
import type { Choice, ClashSide, ToldClash } from '../contract/joining.ts';
import { PICTURE_PAGE } from '../kinds/picture/places/places.ts';
import { ReadError } from '../model/problem.ts';
import type { Raster } from '../model/raster.ts';

/** Side of a square in pixels: with any number of bits a pixel, its rows begin at whole bytes. */
const SQUARE = 8;
/** Squares that are further apart belong to different places. */
const REACH = 2;

/** Squares of a picture, row by row. */
interface Grid {
  readonly columns: number;
  readonly rows: number;
}

/** A place where something was painted: its squares. */
interface Place {
  readonly squares: readonly number[];
  readonly box: Box;
}

export interface Painted {
  readonly rows: Uint8Array;
  readonly clashes: readonly ToldClash[];
  readonly changed: boolean;
}

export interface Painting {
  readonly base: Raster;
  readonly ours: Raster;
  readonly theirs: Raster;
  /** Only places that meet one of these boxes, in pixels. */
  readonly within?: readonly Box[];
  readonly decisions?: ReadonlyMap<string, Choice>;
  readonly prefer?: Choice;
}

/** Why pixels of two pictures cannot be put into one another; undefined where they can. */
export function misfit(a: Raster, b: Raster): string | undefined {
  if (a.width !== b.width || a.height !== b.height) return 'The pictures are not of one size.';
  if (a.bits !== b.bits || a.meaning !== b.meaning)
    return 'The pictures are stored with other depths, palettes or colour profiles.';
  return undefined;
}

/** Throws ReadError for pictures that do not fit one another. */
export function paintedTogether({ base, ours, theirs, within, decisions, prefer = 'ours' }: Painting): Painted {
  const reason = misfit(base, ours) ?? misfit(base, theirs);
  if (reason) throw new ReadError(`${reason} Only the whole file can be taken.`, undefined, 'unsupported');
  const grid = gridOf(ours);
  const oursDid = changedSquares(base, ours, grid);
  const placesOfOurs = placesOf(oursDid, grid, ours);
  const homeInOurs = new Int32Array(oursDid.length).fill(-1);
  placesOfOurs.forEach(({ squares }, k) => {
    for (const square of squares) homeInOurs[square] = k;
  });
  const rows = ours.rows.slice();
  const clashes: ToldClash[] = [];
  let changed = false;
  const take = (squares: Iterable<number>): void => {
    for (const square of squares) {
      copySquare(rows, theirs, square, grid);
      changed = true;
    }
  };
  for (const place of placesOf(changedSquares(base, theirs, grid), grid, theirs)) {
    if (within && !within.some((box) => meet(box, place.box))) continue;
    const open = place.squares.filter((square) => !isSameSquare(ours, theirs, square, grid));
    const disputed = open.filter((square) => oursDid[square] === 1);
    if (disputed.length === 0) {
      take(open);
      continue;
    }
    const rivals = [...new Set(disputed.map((square) => homeInOurs[square] as number))];
    const key = `both-changed ${place.box.join(' ')}`;
    const choice = (decisions?.get(key) ?? prefer) === 'theirs' ? 'theirs' : 'ours';
    const rivalBoxes = rivals.map((k) => (placesOfOurs[k] as Place).box);
    clashes.push({
      key,
      kind: 'both-changed',
      choices: ['ours', 'theirs'],
      choice,
      decided: decisions?.has(key) ?? false,
      base: sideAt(place.box),
      ours: sideAt(rivalBoxes.reduce((all, box) => unite(all, box) ?? all, place.box)),
      theirs: sideAt(place.box),
    });
    if (choice === 'theirs') take(new Set([...open, ...rivals.flatMap((k) => (placesOfOurs[k] as Place).squares)]));
  }
  return { rows, clashes, changed };
}

/** Ours with rectangles of theirs, in pixels. Throws ReadError for pictures that do not fit one another. */
export function paintedOver(ours: Raster, theirs: Raster, boxes: readonly Box[]): Painted {
  const reason = misfit(ours, theirs);
  if (reason) throw new ReadError(`${reason} Only the whole file can be taken.`, undefined, 'unsupported');
  const rows = ours.rows.slice();
  const { width, height, bits, stride } = ours;
  for (const box of boxes) {
    const [left, right] = [Math.max(0, Math.floor(box[0])), Math.min(width, Math.ceil(box[2]))];
    const from = Math.floor((left * bits) / 8);
    const to = Math.ceil((right * bits) / 8);
    for (let y = Math.max(0, Math.floor(box[1])); y < Math.min(height, Math.ceil(box[3])); y++)
      rows.set(theirs.rows.subarray(y * stride + from, y * stride + Math.max(from, to)), y * stride + from);
  }
  return { rows, clashes: [], changed: !isSameBytes(rows, ours.rows, 0, rows.length) };
}

const gridOf = ({ width, height }: Raster): Grid => ({
  columns: Math.ceil(width / SQUARE),
  rows: Math.ceil(height / SQUARE),
});

function* rowsOfSquare({ bits, stride, height }: Raster, square: number, grid: Grid): Generator<[number, number]> {
  const x = square % grid.columns;
  const y = Math.floor(square / grid.columns);
  const from = x * bits;
  const to = Math.min(stride, from + bits);
  for (let row = y * SQUARE; row < Math.min(height, (y + 1) * SQUARE); row++)
    yield [row * stride + from, row * stride + to];
}

function isSameBytes(a: Uint8Array, b: Uint8Array, from: number, to: number): boolean {
  for (let k = from; k < to; k++) if (a[k] !== b[k]) return false;
  return true;
}

function isSameSquare(a: Raster, b: Raster, square: number, grid: Grid): boolean {
  for (const [from, to] of rowsOfSquare(a, square, grid)) if (!isSameBytes(a.rows, b.rows, from, to)) return false;
  return true;
}

function copySquare(rows: Uint8Array, from: Raster, square: number, grid: Grid): void {
  for (const [start, end] of rowsOfSquare(from, square, grid)) rows.set(from.rows.subarray(start, end), start);
}

/** 1 for each square that is not the same. */
function changedSquares(a: Raster, b: Raster, grid: Grid): Uint8Array {
  const changed = new Uint8Array(grid.columns * grid.rows);
  for (let square = 0; square < changed.length; square++) if (!isSameSquare(a, b, square, grid)) changed[square] = 1;
  return changed;
}

/** Squares that lie near one another, as places. */
function placesOf(changed: Uint8Array, { columns, rows }: Grid, { width, height }: Raster): Place[] {
  const seen = new Uint8Array(changed.length);
  const places: Place[] = [];
  for (let first = 0; first < changed.length; first++) {
    if (!changed[first] || seen[first]) continue;
    const squares: number[] = [];
    const pending = [first];
    seen[first] = 1;
    for (let square = pending.pop(); square !== undefined; square = pending.pop()) {
      squares.push(square);
      const [x, y] = [square % columns, Math.floor(square / columns)];
      for (let v = Math.max(0, y - REACH); v <= Math.min(rows - 1, y + REACH); v++) {
        for (let u = Math.max(0, x - REACH); u <= Math.min(columns - 1, x + REACH); u++) {
          const next = v * columns + u;
          if (!changed[next] || seen[next]) continue;
          seen[next] = 1;
          pending.push(next);
        }
      }
    }
    const xs = squares.map((square) => square % columns);
    const ys = squares.map((square) => Math.floor(square / columns));
    const [left, top] = [least(xs) * SQUARE, least(ys) * SQUARE];
    const right = Math.min(width, (most(xs) + 1) * SQUARE);
    const bottom = Math.min(height, (most(ys) + 1) * SQUARE);
    places.push({ squares, box: [left, top, right, bottom] });
  }
  return places;
}

const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);

const meet = (a: Box, b: Box): boolean => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3];

const sideAt = (box: Box): ClashSide => ({
  part: {
    key: null,
    kind: 'place',
    name: `at ${box[0]}, ${box[1]}`,
    category: '',
    page: PICTURE_PAGE,
  },
  box: [...box],
  text: null,
});
