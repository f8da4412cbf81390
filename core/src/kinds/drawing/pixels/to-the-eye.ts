/**
 * Where two pictures of one page differ to the eye. Lines that lie a fraction of a pixel beside one another are the
 * same; a line that is not there, and an area in another colour, are not.
 */
import type { Bitmap } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { ceil, floor, max, min } = Math;

/** Steps of a channel that nobody sees. */
const STEPS = 3;
/** Share of the contrast around a pixel by which it may differ: what less than half a pixel to the side makes. */
const EDGE = 0.4;

/** Left, top, right, bottom as shares of the page. */
export type Share = readonly [number, number, number, number];

/** What a pixel is beside the one in its place in the other picture. */
const ALIKE = 0;
/** Another colour, which the edges around explain. */
const UNLIKE = 1;
const OTHER = 2;

/** A single pixel that differs is noise; so many of the nine around are none. */
const TOGETHER = 3;

export class Differing {
  readonly width: number;
  readonly height: number;
  private readonly other: Counted;
  private readonly unlike: Counted;

  private constructor(width: number, height: number, states: Uint8Array) {
    this.width = width;
    this.height = height;
    this.other = new Counted(width, height, (x, y) => isOther(states, x, y, width, height));
    this.unlike = new Counted(width, height, (x, y) => states[y * width + x] !== ALIKE);
  }

  /** Undefined where the two pages are of another shape. */
  static between(a: Bitmap, b: Bitmap): Differing | undefined {
    if (Math.abs(a.width - b.width) > 1 || Math.abs(a.height - b.height) > 1) return undefined;
    const width = min(a.width, b.width);
    const height = min(a.height, b.height);
    return new Differing(width, height, statesOf(a, b, width, height));
  }

  /** Differing pixels of the whole page. */
  get all(): number {
    return this.other.all;
  }

  /** Differing pixels within a part of the page, and one pixel around. */
  within(share: Share): number {
    return this.other.within(...this.pixelsOf(share));
  }

  /** Differing pixels there that lie in none of the parts of the page that are `explained`. */
  unexplainedWithin(share: Share, explained: readonly Share[]): number {
    const [left, top, right, bottom] = this.pixelsOf(share);
    const known = explained.map((one) => this.pixelsOf(one));
    let count = 0;
    for (let y = top; y < bottom; y++)
      for (let x = left; x < right; x++)
        if (this.other.within(x, y, x + 1, y + 1) > 0 && !known.some((k) => isIn(k, x, y))) count++;
    return count;
  }

  /** Pixels of another colour there, also where edges explain it. */
  unlikeWithin(share: Share): number {
    return this.unlike.within(...this.pixelsOf(share));
  }

  private pixelsOf([x0, y0, x1, y1]: Share): [number, number, number, number] {
    return [
      max(0, floor(x0 * this.width) - 1),
      max(0, floor(y0 * this.height) - 1),
      min(this.width, ceil(x1 * this.width) + 1),
      min(this.height, ceil(y1 * this.height) + 1),
    ];
  }
}

const isIn = ([left, top, right, bottom]: readonly [number, number, number, number], x: number, y: number): boolean =>
  x >= left && x < right && y >= top && y < bottom;

/** Counts pixels of any upright rectangle at once. */
class Counted {
  private readonly row: number;
  /** Pixels above and left of each corner. */
  private readonly sums: Uint32Array;

  constructor(width: number, height: number, counts: (x: number, y: number) => boolean) {
    this.row = width + 1;
    this.sums = new Uint32Array(this.row * (height + 1));
    for (let y = 0; y < height; y++) {
      let sum = 0;
      for (let x = 0; x < width; x++) {
        if (counts(x, y)) sum++;
        this.sums[(y + 1) * this.row + x + 1] = sum + (this.sums[y * this.row + x + 1] as number);
      }
    }
  }

  get all(): number {
    return this.sums[this.sums.length - 1] as number;
  }

  within(left: number, top: number, right: number, bottom: number): number {
    if (right <= left || bottom <= top) return 0;
    const at = (x: number, y: number): number => this.sums[y * this.row + x] as number;
    return at(right, bottom) - at(left, bottom) - at(right, top) + at(left, top);
  }
}

function isOther(states: Uint8Array, x: number, y: number, width: number, height: number): boolean {
  if (states[y * width + x] !== OTHER) return false;
  let around = 0;
  for (let v = max(0, y - 1); v <= min(height - 1, y + 1); v++)
    for (let u = max(0, x - 1); u <= min(width - 1, x + 1); u++) if (states[v * width + u] === OTHER) around++;
  return around >= TOGETHER;
}

function statesOf(a: Bitmap, b: Bitmap, width: number, height: number): Uint8Array {
  const states = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (closeBy(a.data, 4 * (y * a.width + x), b.data, 4 * (y * b.width + x))) continue;
      const byEdges = [0, 1, 2].every((channel) => explained(a, b, x, y, channel, width, height));
      states[y * width + x] = byEdges ? UNLIKE : OTHER;
    }
  return states;
}

function closeBy(a: Bitmap['data'], p: number, b: Bitmap['data'], q: number): boolean {
  for (let c = 0; c < 3; c++) if (Math.abs((a[p + c] as number) - (b[q + c] as number)) > STEPS) return false;
  return true;
}

/** Whether each of the two values lies among those around it in the other picture, give or take part of an edge. */
function explained(a: Bitmap, b: Bitmap, x: number, y: number, c: number, width: number, height: number): boolean {
  let leastA = 255;
  let mostA = 0;
  let leastB = 255;
  let mostB = 0;
  for (let v = max(0, y - 1); v <= min(height - 1, y + 1); v++)
    for (let u = max(0, x - 1); u <= min(width - 1, x + 1); u++) {
      const valueA = a.data[4 * (v * a.width + u) + c] as number;
      const valueB = b.data[4 * (v * b.width + u) + c] as number;
      leastA = min(leastA, valueA);
      mostA = max(mostA, valueA);
      leastB = min(leastB, valueB);
      mostB = max(mostB, valueB);
    }
  const within = STEPS + EDGE * max(mostA - leastA, mostB - leastB);
  const own = a.data[4 * (y * a.width + x) + c] as number;
  const other = b.data[4 * (y * b.width + x) + c] as number;
  return own >= leastB - within && own <= mostB + within && other >= leastA - within && other <= mostA + within;
}
