/**
 * From two pictures to what was done: to all of one (moved, resized, brightened, compressed anew) and to places in it.
 */
import type { ChangeDraft, Evidence } from '../../causes/draft.ts';
import type { PartSummary } from '../../contract/comparison.ts';
import type { Box } from '../../geometry/box.ts';
import { applyX, applyY, type Matrix } from '../../geometry/matrix.ts';
import type { Picture } from '../../model/picture.ts';
import { words, type Bitmap } from '../../raster/bitmap.ts';
import { align, type Alignment } from './align/align.ts';
import { isExact, warp } from './align/warp.ts';
import { THRESHOLD, type DifferenceMap } from './difference/difference-map.ts';
import { differenceOf, plainDifferenceOf } from './difference/difference.ts';
import { regionsOf } from './difference/regions.ts';
import { groups, judge, placesOf, type Frame } from './places/places.ts';
import { through } from './tone/channels.ts';
import { toneBetween } from './tone/tone.ts';
import { compression, files, geometry, sharpness, tones } from './wholes.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, floor, max, min } = Math;

export interface ComparedPictures extends Evidence {
  readonly alignment: Alignment;
  readonly map: DifferenceMap;
}

export interface Comparing {
  /** Where B lies, if it is cut out of something larger; boxes and words then speak of that. */
  readonly frame?: Frame;
  /** How A lies over B, where that is known otherwise than by looking. */
  readonly alignment?: Alignment | undefined;
  /** How much A as B sees it differs from B, where that is not judged as of photographs. */
  readonly difference?: (seen: Bitmap, b: Bitmap, covered: Uint8Array | undefined, matrix: Matrix) => DifferenceMap;
}

/** The number of bits a channel that is compared with. */
const DEPTH = 8;

export function comparePictures(
  a: Picture,
  b: Picture,
  {
    frame = { x: 0, y: 0, width: b.bitmap.width, height: b.bitmap.height },
    difference,
    alignment: known,
  }: Comparing = {},
): ComparedPictures {
  const alignment = known ?? align(a.bitmap, b.bitmap);
  const { bitmap: laid, covered: under } = warp(a.bitmap, alignment.matrix, b.bitmap);
  const covered = withoutLost(under, a, b, alignment.matrix);
  const tone = difference ? undefined : toneBetween(laid, b.bitmap, covered);
  const seen = tone?.channels ? through(laid, tone.channels) : laid;
  const map =
    difference?.(seen, b.bitmap, covered, alignment.matrix) ?? differenceMap(a, b, alignment, seen, covered, tone);
  const found = { ...regionsOf(map, b.bitmap, THRESHOLD), map };
  const judged = judge(seen, b.bitmap, found, tone !== undefined, difference !== undefined);
  const places = placesOf(judged, laid, b.bitmap, alignment.matrix, frame);
  const wholes = [
    ...geometry(a, b, alignment),
    ...(tone ? tones(tone.change) : []),
    ...(alignment.found ? sharpness(seen, b.bitmap, map, b.lossy) : []),
  ];
  // Whatever changes all of a picture computes its pixels anew.
  const recomputed = wholes.length > 0 && !b.lossy;
  const causes = [
    ...wholes,
    ...(recomputed ? [] : compression(a, b, alignment, map)),
    ...files(a, b),
    ...groups(places, frame),
  ];
  return {
    changes: places.map((p) => p.change),
    causes,
    unchanged: 0,
    notes: notesOn(a, b, alignment),
    alignment,
    map,
  };
}

function differenceMap(
  a: Picture,
  b: Picture,
  { found, matrix }: Alignment,
  seen: Bitmap,
  covered: Uint8Array | undefined,
  tone: ReturnType<typeof toneBetween>,
): DifferenceMap {
  if (!found && !tone) return plainDifferenceOf(seen, b.bitmap, covered);
  const map = differenceOf(seen, b.bitmap, covered, tone?.channels ? undefined : tone);
  const mixed = !isExact(matrix) && !fills(matrix, a.bitmap, b.bitmap);
  return mixed ? withoutEdge(map) : map;
}

function notesOn(a: Picture, b: Picture, { found }: Alignment): string[] {
  const notes: string[] = [];
  if (!found && !isPlain(a.bitmap) && !isPlain(b.bitmap))
    notes.push(
      'The two pictures have too little in common to be laid over one another; they are compared corner to corner.',
    );
  if (max(a.depth, b.depth) > DEPTH) notes.push(`Compared at ${DEPTH} bits a channel.`);
  return notes;
}

/** Where A and B lie in something larger: boxes and parts of a comparison as that sees them. */
export interface Placing {
  readonly a?: (box: Box) => Box;
  readonly b?: (box: Box) => Box;
  readonly part?: (part: PartSummary) => PartSummary;
}

const asItIs = (box: Box): Box => box;

/** The places of a comparison as part of a larger one. */
export function placedIn(
  changes: readonly ChangeDraft[],
  { a = asItIs, b = asItIs, part = (p) => p }: Placing,
): ChangeDraft[] {
  return changes.map((c) => ({
    ...c,
    part: part(c.part),
    ...(c.partA ? { partA: part(c.partA) } : {}),
    ...(c.partB ? { partB: part(c.partB) } : {}),
    boxA: c.boxA && [...a(c.boxA)],
    boxB: c.boxB && [...b(c.boxB)],
  }));
}

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
function withoutEdge(map: DifferenceMap): DifferenceMap {
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
