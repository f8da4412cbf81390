/**
 * Content that lies elsewhere now: within its own place (a logo two pixels beside, lines of text pushed down), or in
 * quite another one.
 */
import { words, type Bitmap } from '../../../raster/bitmap.ts';
import type { Squares } from './nature.ts';
import type { Region } from '../difference/regions.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, ceil, floor, hypot, max, min } = Math;

export type Offset = readonly [dx: number, dy: number];

/**
 * Channels added up: colours that are at most so far apart are the same; and those that make a line or an edge are at
 * least so far apart.
 */
const SAME = 40;
const EDGE = 60;
/** Edge pixels by which shifts are first told apart, and those by which the best are judged; shifts that are judged. */
const FEW = 80;
const MANY = 1200;
const BEST = 12;
/** Fewer edge pixels prove no move. */
const FEWEST = 16;
/** Squares whose pixels are looked at. */
const SQUARES = 4000;
/** Furthest that content is looked for within its place, in pixels; and no further than half the place. */
const REACH = 240;
/** Share of the edges of B that were in A so far away, and of those of A that are in B. */
const BOTH = 0.8;
/** Share of the edges that may have stayed where they were. */
const STAYED = 0.5;

const apart = (p: number, q: number): number =>
  p === q
    ? 0
    : abs((p & 255) - (q & 255)) +
      abs(((p >>> 8) & 255) - ((q >>> 8) & 255)) +
      abs(((p >>> 16) & 255) - ((q >>> 16) & 255)) +
      abs((p >>> 24) - (q >>> 24));

/**
 * How a place was moved within itself, if it was: its edges in B were in A so far away, and those that it had in A
 * are in B. `squares` are those that changed.
 */
export function movedWithin(a: Bitmap, b: Bitmap, { box }: Region, squares: Squares): Offset | undefined {
  const wa = words(a);
  const wb = words(b);
  const ofA = edgesIn(wa, a, squares);
  const ofB = edgesIn(wb, b, squares);
  const reachX = min(REACH, (box[2] - box[0]) >> 1);
  const reachY = min(REACH, (box[3] - box[1]) >> 1);
  if (min(ofA.length, ofB.length) < FEWEST) return undefined;
  const few = [spread(ofA, FEW), spread(ofB, FEW)] as const;
  const many = [spread(ofA, MANY), spread(ofB, MANY)] as const;
  const score = (dx: number, dy: number, [inA, inB]: typeof few, least: number): number => {
    const came = found(wb, wa, b, inB, -dx, -dy, least);
    return came < least ? 0 : min(came, found(wa, wb, b, inA, dx, dy, least));
  };
  // Edges that are where they were did not move, whatever else became of them.
  if (score(0, 0, many, 0) > STAYED) return undefined;
  const tried: { readonly at: Offset; readonly score: number }[] = [];
  for (let dy = -reachY; dy <= reachY; dy++) {
    for (let dx = -reachX; dx <= reachX; dx++) {
      const one = dx || dy ? score(dx, dy, few, BOTH - 0.1) : 0;
      if (one >= BOTH - 0.1) tried.push({ at: [dx, dy], score: one });
    }
  }
  const byScore = (p: (typeof tried)[number], q: (typeof tried)[number]): number =>
    q.score - p.score || hypot(...p.at) - hypot(...q.at);
  return tried
    .sort(byScore)
    .slice(0, BEST)
    .map(({ at }) => ({ at, score: score(...at, many, BOTH) }))
    .sort(byScore)
    .find((t) => t.score >= BOTH)?.at;
}

/** Pixels that differ from the one at the left or above, as numbers of the pixel. */
function edgesIn(pixels: Uint32Array, { width, height }: Bitmap, squares: Squares): number[] {
  const out: number[] = [];
  const every = 2 * max(1, floor(squares.length / 2 / SQUARES));
  for (let k = 0; k < squares.length; k += every) {
    for (let y = max(1, squares[k + 1] as number), y1 = min(height, (squares[k + 1] as number) + 4); y < y1; y++) {
      for (let x = max(1, squares[k] as number), x1 = min(width, (squares[k] as number) + 4); x < x1; x++) {
        const i = y * width + x;
        const here = pixels[i] as number;
        if (apart(here, pixels[i - 1] as number) >= EDGE || apart(here, pixels[i - width] as number) >= EDGE)
          out.push(i);
      }
    }
  }
  return out;
}

/** At most `count` of a list, evenly. */
const spread = (list: readonly number[], count: number): readonly number[] =>
  list.length <= count
    ? list
    : Array.from({ length: count }, (_, k) => list[floor((k * list.length) / count)] as number);

/**
 * Share of edge pixels that another picture has so far away, with what is at their left and above them; 0 as soon as
 * it cannot be `least` any more.
 */
function found(
  from: Uint32Array,
  to: Uint32Array,
  { width, height }: Bitmap,
  pixels: readonly number[],
  dx: number,
  dy: number,
  least: number,
): number {
  const most = ceil((1 - least) * pixels.length);
  let missed = 0;
  for (const i of pixels) {
    const x = (i % width) + dx;
    const y = floor(i / width) + dy;
    const j = i + dy * width + dx;
    if (
      x >= 1 &&
      y >= 1 &&
      x < width &&
      y < height &&
      apart(from[i] as number, to[j] as number) <= SAME &&
      apart(from[i - 1] as number, to[j - 1] as number) <= SAME &&
      apart(from[i - width] as number, to[j - width] as number) <= SAME
    )
      continue;
    if (++missed > most) return 0;
  }
  return 1 - missed / pixels.length;
}

/**
 * The squares of a moved place that its move does not explain: what stands in them came from nowhere, or what stood
 * in them went nowhere.
 */
export function leftOver(a: Bitmap, b: Bitmap, squares: Squares, [dx, dy]: Offset): number[] {
  const wa = words(a);
  const wb = words(b);
  const out: number[] = [];
  for (let k = 0; k < squares.length; k += 2) {
    const square = [squares[k] as number, squares[k + 1] as number] as const;
    const ofA = edgesIn(wa, a, square);
    const ofB = edgesIn(wb, b, square);
    if (
      (ofB.length && found(wb, wa, b, ofB, -dx, -dy, HALF) < HALF) ||
      (ofA.length && found(wa, wb, b, ofA, dx, dy, HALF) < HALF)
    )
      out.push(...square);
  }
  return out;
}

const HALF = 0.5;

/** By how much content of one box lies in another, to the pixel; boxes are known to a square only. */
export function offsetBetween(a: Bitmap, from: Region['box'], b: Bitmap, to: Region['box']): Offset {
  const wa = words(a);
  const wb = words(b);
  const [x0, y0, x1, y1] = from;
  const columns = min(24, x1 - x0);
  const rows = min(24, y1 - y0);
  const dx0 = to[0] - x0;
  const dy0 = to[1] - y0;
  let best: Offset = [dx0, dy0];
  let least = Infinity;
  for (let dy = dy0 - 6; dy <= dy0 + 6; dy++) {
    for (let dx = dx0 - 6; dx <= dx0 + 6; dx++) {
      let sum = 0;
      for (let r = 0; r < rows; r++) {
        for (let c = 0; c < columns; c++) {
          const x = x0 + floor(((c + 0.5) * (x1 - x0)) / columns);
          const y = y0 + floor(((r + 0.5) * (y1 - y0)) / rows);
          const px = x + dx;
          const py = y + dy;
          sum +=
            px < 0 || py < 0 || px >= b.width || py >= b.height
              ? 200
              : apart(wa[y * a.width + x] as number, wb[py * b.width + px] as number);
        }
      }
      if (sum < least || (sum === least && hypot(dx - dx0, dy - dy0) < hypot(best[0] - dx0, best[1] - dy0)))
        [least, best] = [sum, [dx, dy]];
    }
  }
  return best;
}
