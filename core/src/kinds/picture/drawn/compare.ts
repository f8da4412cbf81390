/**
 * Compares a page of one kind with a page or picture of another: a print with the drawing that it was plotted from, a
 * scan with a sheet.
 */
import { withChanges } from '../../../causes/draft.ts';
import { boxAround, type Box } from '../../../geometry/box.ts';
import { multiply, scaleOf, type Matrix } from '../../../geometry/matrix.ts';
import type { Design } from '../../../model/design.ts';
import type { Pictures } from '../../../model/format.ts';
import { plainPicture, type Picture } from '../../../model/picture.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import type { FoundInPair, Seen } from '../../kind.ts';
import type { Alignment } from '../align/align.ts';
import { comparePictures, type ComparedPictures } from '../compare.ts';
import { packMap } from '../difference/packed-map.ts';
import { outlinesOfPictures } from '../outlines.ts';
import { PICTURE_PAGE } from '../places/places.ts';
import { FLAT } from '../../solid/flat/format.ts';
import { laidByPlaces } from './laid.ts';
import { DRAWN_SIDE } from './pages.ts';
import { samePages } from './same-pages.ts';
import { strokesBetween } from './strokes.ts';
import { compareWords, type ComparedWords, type Line } from './words.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, atan2, max, min, round } = Math;

/** How far a line may lie beside where it should, and room around words, in pixels. */
const REACH = 3;
const ROOM = 6;
/** Share of its length by which a line may be longer in another font. */
const WIDER = 0.15;
/** Share of the longer side within which a line of words may stand elsewhere. */
const WANDERS = 0.04;
/** Share of a place that words must cover to explain it. */
const COVERED = 0.6;

/** One side: the page that is compared, as it is drawn, and its lines of words. */
interface DrawnSide {
  readonly seen: Seen<Pictures>;
  readonly page: number;
  readonly picture: Picture;
  readonly lines: readonly Line[];
}

/** Throws ReadError where one side cannot be drawn. */
export async function compareDrawn(a: Seen<Pictures>, b: Seen<Pictures>): Promise<FoundInPair> {
  const [pageA, pageB] = await samePages(a.model, b.model);
  const sideA = await drawnSide(a, pageA);
  const sideB = await drawnSide(b, pageB);
  const worded = sideA.lines.length > 0 && sideB.lines.length > 0;
  const seen = comparedAsSeen(sideA, sideB, worded);
  const words = worded && seen.alignment.found ? comparedWords(sideA, sideB, seen.alignment.matrix) : nothingSaid;
  const found = joined(seen, words);
  const outlines = outlinesOfPictures({ ...seen, changes: found.changes }, sideA.picture.bitmap, sideB.picture.bitmap);
  return {
    ...found,
    unchanged: 0,
    notes: notesOn(sideA, sideB, seen.alignment, worded),
    unit: 'px',
    tolerance: 0,
    outlines: { ...outlines, drawn: { a: pageA, b: pageB } },
    map: packMap(seen.map),
  };
}

const nothingSaid: ComparedWords = { changes: [], causes: [] };

async function drawnSide(seen: Seen<Pictures>, page: number): Promise<DrawnSide> {
  const picture = plainPicture((await seen.model.page(page, DRAWN_SIDE)).bitmap);
  return { seen, page, picture, lines: linesOf(seen.model.drawnFrom, page, picture.bitmap) };
}

/** By strokes; words are left out where both sides have them, for programs set them each in their own way. */
function comparedAsSeen(a: DrawnSide, b: DrawnSide, worded: boolean): ComparedPictures {
  const around = ([x0, y0, x1, y1]: Box): Box => [x0 - ROOM, y0 - ROOM, x1 + ROOM + WIDER * (x1 - x0), y1 + ROOM];
  const beside = (m: Matrix): Box[] =>
    worded ? [...a.lines.map((l) => boxAround(l.box, m)), ...b.lines.map((l) => l.box)].map(around) : [];
  const scanned = !a.seen.model.drawnFrom || !b.seen.model.drawnFrom;
  return comparePictures(a.picture, b.picture, {
    alignment: isFlat(a) || isFlat(b) ? laidByPlaces(laidSide(a), laidSide(b)) : undefined,
    difference: (seen, other, covered, m) =>
      strokesBetween(seen, other, covered, { reach: REACH, beside: beside(m), scanned }),
  });
}

/** A model that was drawn flat has lines and nothing else, too little for looking from afar. */
const isFlat = ({ seen }: DrawnSide): boolean => seen.model.drawnFrom?.format === FLAT;

const laidSide = ({ seen, page, picture }: DrawnSide): Parameters<typeof laidByPlaces>[0] => ({
  bitmap: picture.bitmap,
  design: seen.model.drawnFrom,
  page,
});

/** Only what both pages show can be compared. */
function comparedWords(a: DrawnSide, b: DrawnSide, matrix: Matrix): ComparedWords {
  const { bitmap } = b.picture;
  const sheet = boxAround([0, 0, a.picture.bitmap.width, a.picture.bitmap.height], matrix);
  const shown = (box: Box): boolean => box[0] < bitmap.width && box[1] < bitmap.height && box[2] > 0 && box[3] > 0;
  const own = a.lines
    .map((line) => ({ line, seen: { words: line.words, box: boxAround(line.box, matrix) } }))
    .filter(({ seen }) => shown(seen.box));
  return compareWords(
    own.map(({ line }) => line),
    own.map(({ seen }) => seen),
    b.lines.filter((line) => covers(sheet, line.box)),
    PICTURE_PAGE,
    WANDERS * DRAWN_SIDE,
  );
}

/** Places where words changed are said already; whole settings differ between any two plots. */
function joined(seen: ComparedPictures, words: ComparedWords): Pick<FoundInPair, 'changes' | 'causes'> {
  const { matrix } = seen.alignment;
  const boxes = words.changes.map((w) => w.boxB ?? (w.boxA ? boxAround(w.boxA, matrix) : null));
  const left = [...seen.changes.keys()].filter((k) => {
    const box = seen.changes[k]?.boxB ?? seen.changes[k]?.boxA ?? null;
    return !boxes.some((by) => overlap(box, by) > COVERED);
  });
  const places = left.flatMap((k) => seen.changes[k] ?? []);
  const causes = withChanges(
    seen.causes.filter((cause) => cause.changes.length),
    (k) => (left.includes(k) ? left.indexOf(k) : undefined),
  );
  const worded = withChanges(words.causes, (k) => places.length + k);
  return { changes: [...places, ...words.changes], causes: [...causes, ...worded] };
}

function notesOn(a: DrawnSide, b: DrawnSide, alignment: Alignment, worded: boolean): string[] {
  const how = worded ? ' and by words' : '';
  const laid = `Compared as drawn, by pixels${how}: ${named(a)} is laid over ${named(b)}${sayLaid(alignment)}.`;
  const apart = 'The two have too little in common to be laid over one another; they are compared corner to corner.';
  return alignment.found ? [laid] : [laid, apart];
}

function named({ seen: { content, model }, page }: DrawnSide): string {
  const title = content.card?.title ?? 'file';
  const pages = model.drawnFrom?.pages ?? [];
  return pages.length > 1 ? `${pages[page]?.name ?? 'a page'} of the ${title}` : `the ${title}`;
}

function sayLaid({ matrix: m, found }: Alignment): string {
  if (!found) return '';
  const scale = scaleOf(m);
  const turn = (atan2(m[1], m[0]) * 180) / PI;
  return [
    ...(abs(scale - 1) > 0.002 ? [`, scaled to ${round(scale * 1000) / 10} %`] : []),
    ...(abs(turn) > 0.05 ? [`, turned by ${round(turn * 100) / 100}°`] : []),
  ]
    .join('')
    .replaceAll('-', '−');
}

const covers = (sheet: Box, box: Box): boolean =>
  box[0] >= sheet[0] - 2 && box[1] >= sheet[1] - 2 && box[2] <= sheet[2] + 2 && box[3] <= sheet[3] + 2;

/** Share of one box that another covers. */
function overlap(of: readonly number[] | null, by: readonly number[] | null): number {
  if (!of || !by) return 0;
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = of;
  const [u0 = 0, v0 = 0, u1 = 0, v1 = 0] = by;
  const room = 6;
  const w = min(x1, u1 + room) - max(x0, u0 - room);
  const h = min(y1, v1 + room) - max(y0, v0 - room);
  return w > 0 && h > 0 ? (w * h) / max(1, (x1 - x0) * (y1 - y0)) : 0;
}

/** Lines of words in pixels of what is drawn; none for pictures and scans. */
function linesOf(design: Design | undefined, page: number, drawn: Bitmap): Line[] {
  const box = design?.pages[page]?.box;
  if (!design || !box) return [];
  const scale = drawn.width / (box[2] - box[0] || 1);
  const m: Matrix = multiply([scale, 0, 0, scale, 0, 0], [1, 0, 0, 1, -box[0], -box[1]]);
  return design.parts.flatMap((p) =>
    p.page === page && p.lettering && p.box && p.props['hidden'] !== 'yes'
      ? [{ words: p.lettering.words ?? p.lettering.runs.map((r) => r.text).join(' '), box: boxAround(p.box, m) }]
      : [],
  );
}
