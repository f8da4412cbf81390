/** From two pictures to what was done: to all of one (moved, resized, brightened, compressed anew) and to places in it. */
import type { Cause, Change, Counts } from '../contract/comparison.ts';
import type { Box } from '../geometry/box.ts';
import { applyX, applyY, type Matrix } from '../geometry/matrix.ts';
import { align, type Alignment } from './align.ts';
import { words, type Bitmap } from './bitmap.ts';
import { through } from './channels.ts';
import { differenceOf, plainDifferenceOf, THRESHOLD, type DifferenceMap } from './difference.ts';
import type { Picture } from './picture.ts';
import { groups, judge, placesOf, type Frame } from './places.ts';
import { regionsOf } from './regions.ts';
import { toneBetween } from './tone.ts';
import { isExact, warp } from './warp.ts';
import { compression, files, geometry, lossy, sharpness, tones } from './wholes.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, max, min, round } = Math;

export interface ComparedPictures {
  readonly changes: Change[];
  readonly causes: Cause[];
  readonly counts: Counts;
  readonly notes: string[];
  readonly alignment: Alignment;
  readonly map: DifferenceMap;
}

export interface Comparing {
  /** Where B lies, if it is cut out of something larger; boxes and words then speak of that. */
  readonly frame?: Frame;
  /** How much A as B sees it differs from B, where that is not judged as of photographs. */
  readonly difference?: (seen: Bitmap, b: Bitmap, covered: Uint8Array | undefined, matrix: Matrix) => DifferenceMap;
}

export function comparePictures(
  a: Picture,
  b: Picture,
  { frame = { x: 0, y: 0, width: b.bitmap.width, height: b.bitmap.height }, difference }: Comparing = {},
): ComparedPictures {
  const alignment = align(a.bitmap, b.bitmap);
  const { bitmap: laid, covered: under } = warp(a.bitmap, alignment.matrix, b.bitmap);
  const covered = withoutLost(under, a, b, alignment.matrix);
  const tone = difference ? undefined : toneBetween(laid, b.bitmap, covered);
  const seen = tone?.channels ? through(laid, tone.channels) : laid;
  const map =
    difference?.(seen, b.bitmap, covered, alignment.matrix) ??
    (alignment.found || tone
      ? withoutEdge(
          differenceOf(seen, b.bitmap, covered, tone?.channels ? undefined : tone),
          !isExact(alignment.matrix) && !fills(alignment.matrix, a.bitmap, b.bitmap),
        )
      : plainDifferenceOf(seen, b.bitmap, covered));
  const { regions, labels } = regionsOf(map, b.bitmap, THRESHOLD);
  const changes = placesOf(
    judge(seen, b.bitmap, { regions, labels, map }, tone !== undefined, difference !== undefined),
    laid,
    b.bitmap,
    alignment.matrix,
    frame,
  );
  const whole = [
    ...geometry(a, b, alignment),
    ...(tone ? tones(tone.change) : []),
    ...(alignment.found ? sharpness(seen, b.bitmap, map, lossy.has(b.format)) : []),
  ];
  // Whatever changes all of a picture computes its pixels anew.
  const facts = [
    ...whole,
    ...(whole.length && !lossy.has(b.format) ? [] : compression(a, b, alignment, map)),
    ...files(a, b),
  ];
  const causes = [
    ...facts.map(([kind, sentence, weight]) => ({ kind, sentence, weight, parts: 1, changes: [] as string[] })),
    ...groups(changes, frame),
  ]
    .sort((p, q) => q.weight - p.weight)
    .map((c, n) => ({ id: `k${n + 1}`, ...c, weight: round(c.weight * 100) / 100 }));
  const tally = (kind: Change['kind']): number => changes.filter((c) => c.change.kind === kind).length;
  const notes = [
    ...(alignment.found || isPlain(a.bitmap) || isPlain(b.bitmap)
      ? []
      : [
          'The two pictures have too little in common to be laid over one another; they are compared corner to corner.',
        ]),
    ...(max(a.depth, b.depth) > 8 ? ['Compared at 8 bits a channel.'] : []),
  ];
  return {
    changes: changes.map((c) => c.change),
    causes,
    notes,
    alignment,
    map,
    counts: {
      added: tally('added'),
      removed: tally('removed'),
      changed: tally('changed'),
      moved: tally('moved'),
      unchanged: 0,
    },
  };
}

/**
 * The places of a comparison as part of a larger one: numbered on from `first`, their parts and boxes seen as that sees them.
 * `ids` leads from the numbers before to those after.
 */
export function placedIn(
  changes: readonly Change[],
  first: number,
  part: (part: Change['part']) => Change['part'],
  boxes: { readonly a: (box: Box) => Box; readonly b: (box: Box) => Box },
): { changes: Change[]; ids: Map<string, string> } {
  const ids = new Map(changes.map((c, k) => [c.id, `c${first + k}`]));
  return {
    ids,
    changes: changes.map((c) => ({
      ...c,
      id: ids.get(c.id) ?? c.id,
      part: part(c.part),
      ...(c.partA ? { partA: part(c.partA) } : {}),
      ...(c.partB ? { partB: part(c.partB) } : {}),
      boxA: c.boxA && [...boxes.a(c.boxA)],
      boxB: c.boxB && [...boxes.b(c.boxB)],
    })),
  };
}

export const asItIs = { a: (box: Box): Box => box, b: (box: Box): Box => box };

/** Whether a picture is one colour all over: it lies anywhere as well as elsewhere. */
function isPlain(bitmap: Bitmap): boolean {
  const pixels = words(bitmap);
  const stride = max(1, floor(pixels.length / 20_000)) | 1;
  const first = pixels[0];
  for (let i = 0; i < pixels.length; i += stride) if (pixels[i] !== first) return false;
  return true;
}

/** Whether A, laid over B, ends where B does. */
function fills(m: Matrix, a: Bitmap, b: Bitmap): boolean {
  const ends = [
    [0, 0, 0, 0],
    [a.width, a.height, b.width, b.height],
  ] as const;
  return ends.every(([x, y, atX, atY]) => abs(applyX(m, x, y) - atX) < CLOSE && abs(applyY(m, x, y) - atY) < CLOSE);
}

/** In pixels. */
const CLOSE = 0.02;

/** Where a turned or scaled picture ends, its last pixels are mixed with what lies beyond. */
function withoutEdge(map: DifferenceMap, mixed: boolean): DifferenceMap {
  if (!mixed) return map;
  const { columns, rows, shared } = map;
  const beyond = map.beyond.slice();
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const i = y * columns + x;
      if (
        x === 0 ||
        y === 0 ||
        x === columns - 1 ||
        y === rows - 1 ||
        !(shared[i - 1] && shared[i + 1] && shared[i - columns] && shared[i + columns])
      )
        beyond[i] = 0;
    }
  }
  return { ...map, beyond };
}

/** What could not be decoded is no change: it counts as not covered. */
function withoutLost(covered: Uint8Array | undefined, a: Picture, b: Picture, matrix: Matrix): Uint8Array | undefined {
  const { width, height } = b.bitmap;
  const from =
    floor(min(b.lostFrom ?? height, a.lostFrom === undefined ? height : applyY(matrix, 0, a.lostFrom))) - EDGE;
  if (from >= height - EDGE) return covered;
  const out = covered?.slice() ?? new Uint8Array(width * height).fill(1);
  out.fill(0, max(0, from) * width);
  return out;
}

/** Rows above what was lost that may be wrong, too. */
const EDGE = 16;
