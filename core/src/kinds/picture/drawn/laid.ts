/** How one drawing lies over another, where both are lines and little else: by their places, or by what they cover. */
import { applyX, applyY, multiply, type Matrix } from '../../../geometry/matrix.ts';
import type { Design, Page } from '../../../model/design.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import type { Alignment } from '../align/align.ts';

/** Lightness below which a pixel is ink. */
const INK = 160;
/** Pixels that a line may lie beside its counterpart. */
const REACH = 3;
/** Pixels of ink that are looked at. */
const SAMPLE = 6000;
/** Share of the ink that must lie over ink. */
const ENOUGH = 0.5;
/** A fit that leaves no wish for another. */
const CLEAR = 0.9;

interface Side {
  readonly bitmap: Bitmap;
  readonly design: Design | undefined;
  readonly page: number;
}

/** Undefined where neither their places nor their extents bring ink over ink. */
export function laidByPlaces(a: Side, b: Side): Alignment | undefined {
  const [inkA, inkB] = [inkOf(a.bitmap), inkOf(b.bitmap)];
  let best: Alignment | undefined;
  for (const matrix of candidates(a, b, inkA, inkB)) {
    const fit = fitOf(inkA, inkB, matrix);
    if (fit >= ENOUGH && fit > (best?.fit ?? 0)) best = { matrix, fit, found: true };
    if (fit >= CLEAR) break;
  }
  return best;
}

function* candidates(a: Side, b: Side, inkA: Ink, inkB: Ink): Generator<Matrix> {
  const [from, to] = [sheetOf(a), sheetOf(b)];
  const ratio = from && to && from.millimetres && to.millimetres ? from.millimetres / to.millimetres : undefined;
  if (from && to && ratio !== undefined) {
    // Pixels of A, its units, those of B, pixels of B.
    const scale = (to.scale * ratio) / from.scale;
    yield [
      scale,
      0,
      0,
      scale,
      (from.page.box[0] * ratio - to.page.box[0]) * to.scale,
      (from.page.box[1] * ratio - to.page.box[1]) * to.scale,
    ];
    yield middled(inkA, inkB, scale);
  }
  const size = ({ box }: Ink): number => Math.max(box[2] - box[0], box[3] - box[1]);
  yield middled(inkA, inkB, size(inkB) / (size(inkA) || 1));
}

interface SheetSize {
  readonly page: Page;
  /** Pixels a unit. */
  readonly scale: number;
  readonly millimetres: number | undefined;
}

function sheetOf({ design, page: k, bitmap }: Side): SheetSize | undefined {
  const page = design?.pages[k];
  const width = page && page.box[2] - page.box[0];
  return page && width ? { page, scale: bitmap.width / width, millimetres: page.unitMillimetres } : undefined;
}

/** The middle of what is drawn comes over the middle of what is drawn. */
function middled(a: Ink, b: Ink, scale: number): Matrix {
  const middle = ({ box: [x0, y0, x1, y1] }: Ink): readonly [number, number] => [(x0 + x1) / 2, (y0 + y1) / 2];
  const [[ax, ay], [bx, by]] = [middle(a), middle(b)];
  return multiply([1, 0, 0, 1, bx, by], multiply([scale, 0, 0, scale, 0, 0], [1, 0, 0, 1, -ax, -ay]));
}

interface Ink {
  readonly width: number;
  readonly height: number;
  readonly dark: Uint8Array;
  /** x and y of some of it, alternating. */
  readonly places: Uint32Array;
  readonly box: readonly [number, number, number, number];
}

function inkOf({ width, height, data }: Bitmap): Ink {
  const dark = new Uint8Array(width * height);
  const places: number[] = [];
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      if (Math.min(data[4 * at] as number, data[4 * at + 1] as number, data[4 * at + 2] as number) >= INK) continue;
      dark[at] = 1;
      places.push(x, y);
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
    }
  const every = Math.max(1, Math.floor(places.length / 2 / SAMPLE));
  const some = places.filter((_, k) => Math.floor(k / 2) % every === 0);
  return { width, height, dark, places: Uint32Array.from(some), box: [x0, y0, x1, y1] };
}

/** The smaller share of the two: of A's ink over ink of B, and of B's over ink of A. */
function fitOf(a: Ink, b: Ink, matrix: Matrix): number {
  const back = invertedScale(matrix);
  return Math.min(shareOver(a, b, matrix), back ? shareOver(b, a, back) : 0);
}

/** Of a matrix that shifts and scales alike. */
function invertedScale([scale, , , , dx, dy]: Matrix): Matrix | undefined {
  return scale > 0 ? [1 / scale, 0, 0, 1 / scale, -dx / scale, -dy / scale] : undefined;
}

function shareOver({ places }: Ink, { dark, width, height }: Ink, matrix: Matrix): number {
  if (places.length === 0) return 0;
  let over = 0;
  for (let k = 0; k < places.length; k += 2) {
    const [x, y] = [places[k] as number, places[k + 1] as number];
    const [px, py] = [Math.round(applyX(matrix, x, y)), Math.round(applyY(matrix, x, y))];
    if (isDark(dark, width, height, px, py)) over += 1;
  }
  return (2 * over) / places.length;
}

function isDark(dark: Uint8Array, width: number, height: number, px: number, py: number): boolean {
  for (let y = Math.max(0, py - REACH); y <= Math.min(height - 1, py + REACH); y++)
    for (let x = Math.max(0, px - REACH); x <= Math.min(width - 1, px + REACH); x++)
      if (dark[y * width + x]) return true;
  return false;
}
