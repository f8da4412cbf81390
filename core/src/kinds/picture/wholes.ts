/**
 * What was done to all of a picture: its geometry, its colours, its sharpness, how it was saved, and what the file
 * says of itself.
 */
import type { CauseDraft } from '../../causes/draft.ts';
import type { Saying } from '../../causes/say.ts';
import type { CauseKind } from '../../contract/comparison.ts';
import { applyX, applyY, type Matrix } from '../../geometry/matrix.ts';
import type { Picture } from '../../model/picture.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import type { Alignment } from './align/align.ts';
import { CELL, THRESHOLD, type DifferenceMap } from './difference/difference-map.ts';
import type { ToneChange } from './tone/tone.ts';

/** Taken out of their object once: they are called for every square. */
const { PI, abs, atan2, floor, hypot, max, min, sqrt } = Math;

/** A cause that is of no one place. */
export const whole = (kind: CauseKind, saying: Saying, weight: number): CauseDraft => ({
  kind,
  saying,
  weight,
  parts: 1,
  changes: [],
});

type Size = readonly [number, number];

const sizeOf = ({ width, height }: Bitmap): Size => [width, height];

/** Degrees, and shares of a size, below which nothing was turned or scaled. */
const TURNED = 0.03;
const SCALED = 0.0015;

/** What was done to the whole: cropped, resized, turned, mirrored, shifted. */
export function geometry(a: Picture, b: Picture, alignment: Alignment): CauseDraft[] {
  const from = sizeOf(a.bitmap);
  const to = sizeOf(b.bitmap);
  const resized = from[0] !== to[0] || from[1] !== to[1];
  if (!alignment.found) return resized ? [whole('page', { code: 'size-differs', values: { from, to } }, 8)] : [];
  const laid = laidHow(alignment.matrix);
  const out = [...turning(laid), ...scaling(laid, from, to)];
  if (laid.mirrored || laid.turned) return out;
  if (resized) return [...out, ...bordering(alignment.matrix, from, to)];
  const [, , , , dx, dy] = alignment.matrix;
  const still = laid.scaled || (dx === 0 && dy === 0);
  return still ? out : [...out, whole('origin', { code: 'shifted', values: { dx, dy } }, 8)];
}

interface Laid {
  readonly across: number;
  readonly down: number;
  /** Degrees clockwise. */
  readonly turn: number;
  readonly mirrored: boolean;
  readonly turned: boolean;
  readonly scaled: boolean;
}

function laidHow(m: Matrix): Laid {
  const across = hypot(m[0], m[1]);
  const down = hypot(m[2], m[3]);
  const turn = (atan2(m[1], m[0]) * 180) / PI;
  return {
    across,
    down,
    turn,
    mirrored: m[0] * m[3] - m[1] * m[2] < 0,
    turned: abs(turn) > TURNED,
    scaled: abs(across - 1) > SCALED || abs(down - 1) > SCALED,
  };
}

function turning({ mirrored, turned, turn }: Laid): CauseDraft[] {
  if (mirrored) return [whole('flipped', { code: 'mirrored', values: { way: mirrorOf(turn) } }, 8.5)];
  return turned ? [whole('turned', { code: 'turned', values: { degrees: turn } }, 8.5)] : [];
}

function mirrorOf(turn: number): 'across' | 'down' | 'diagonal' {
  if (abs(turn) > 135) return 'across';
  return abs(turn) < 45 ? 'down' : 'diagonal';
}

function scaling({ scaled, across, down }: Laid, from: Size, to: Size): CauseDraft[] {
  if (!scaled) return [];
  const evenly = abs(across / down - 1) < 0.01;
  const values = { across, ...(evenly ? {} : { down }), from, to };
  return [whole('resampled', { code: 'resampled', values }, 8)];
}

/** Less than this many pixels beyond a side are none. */
const BEYOND = 0.75;

/** What was cut off at the sides, and what was added there. */
function bordering(m: Matrix, from: Size, to: Size): CauseDraft[] {
  const corners = [
    [0, 0],
    [from[0], 0],
    [0, from[1]],
    [from[0], from[1]],
  ] as const;
  const xs = corners.map(([x, y]) => applyX(m, x, y));
  const ys = corners.map(([x, y]) => applyY(m, x, y));
  const sides = [
    { side: 'left', pixels: min(...xs) },
    { side: 'top', pixels: min(...ys) },
    { side: 'right', pixels: to[0] - max(...xs) },
    { side: 'bottom', pixels: to[1] - max(...ys) },
  ] as const;
  const cut = sides.filter((s) => s.pixels < -BEYOND).map((s) => ({ ...s, pixels: -s.pixels }));
  const grown = sides.filter((s) => s.pixels > BEYOND);
  return [
    ...(cut.length ? [whole('cropped', { code: 'cropped', values: { from, to, sides: cut } }, 8.5)] : []),
    ...(grown.length ? [whole('page', { code: 'canvas-grown', values: { from, to, sides: grown } }, 8)] : []),
  ];
}

/** Below this share of its colours a picture has none. */
const GREY = 0.12;

export function tones({ lightness, contrast, saturation, hue, cast }: ToneChange): CauseDraft[] {
  const out: CauseDraft[] = [];
  const tone = (saying: Saying, weight: number): void => void out.push(whole('tone', saying, weight));
  const coloured = saturation >= GREY;
  if (abs(lightness) > 0.8) tone({ code: 'lightness', values: { by: lightness } }, 8);
  if (abs(contrast - 1) > 0.05) tone({ code: 'contrast', values: { by: contrast } }, 7.9);
  if (!coloured) tone({ code: 'colours-removed', values: {} }, 8.2);
  else if (abs(saturation - 1) > 0.06) tone({ code: 'saturation', values: { by: saturation } }, 7.8);
  if (abs(hue) > 2 && coloured) tone({ code: 'hue', values: { degrees: hue } }, 7.9);
  if (hypot(...cast) > 1.2 && coloured) tone({ code: 'tinted', values: { towards: castTowards(cast) } }, 7.5);
  return out;
}

function castTowards([red, yellow]: readonly [number, number]): 'red' | 'green' | 'yellow' | 'blue' {
  if (abs(red) > abs(yellow)) return red > 0 ? 'red' : 'green';
  return yellow > 0 ? 'yellow' : 'blue';
}

const SHARPNESS = 7.5;

/**
 * Share of the strongest edges that tell whether a picture was blurred: compressing takes fine grain away, but leaves
 * these.
 */
const EDGES = 0.03;

/** Whether all was blurred or sharpened, or grain put over it, judged where nothing else was done. */
export function sharpness(a: Bitmap, b: Bitmap, map: DifferenceMap, compressed: boolean): CauseDraft[] {
  if (map.median < 0.2) return [];
  const steps: { a: number; b: number; most: number }[] = [];
  const step = max(1, floor((map.columns * map.rows) / 60_000));
  const grain = new Grain();
  const largest = (of: Bitmap, x: number, y: number): number => {
    let most = 0;
    for (let k = 0; k < 3; k++) {
      const p = 4 * ((y + k) * of.width + x + k) + 1;
      most = max(
        most,
        abs((of.data[p] as number) - (of.data[p + 4] as number)),
        abs((of.data[p] as number) - (of.data[p + 4 * of.width] as number)),
      );
    }
    return most;
  };
  for (let i = 0; i < map.plain.length; i += step) {
    if (!map.shared[i] || (map.beyond[i] as number) >= THRESHOLD) continue;
    const x = (i % map.columns) * CELL;
    const y = floor(i / map.columns) * CELL;
    if (x < 2 || y < 2 || x + CELL + 2 >= b.width || y + CELL + 2 >= b.height) continue;
    const inA = largest(a, x, y);
    const inB = largest(b, x, y);
    steps.push({ a: inA, b: inB, most: max(inA, inB) });
    grain.look(a, b, x + 1, y + 1);
  }
  steps.sort((p, q) => q.most - p.most);
  const strongest = steps.slice(0, max(20, floor(EDGES * steps.length)));
  const sum = (side: 'a' | 'b'): number => strongest.reduce((all, pair) => all + pair[side], 0);
  const ratio = sum('a') > 0 ? sum('b') / sum('a') : 1;
  // Compressing takes fine noise away: that is not blurring yet.
  const blurred = compressed ? 0.55 : 0.75;
  if (ratio < blurred) return [whole('sharpness', { code: 'blurred-overall', values: { edges: ratio } }, SHARPNESS)];
  if (ratio <= 1.3) return [];
  return grain.alongDetail > 0.3
    ? [whole('sharpness', { code: 'sharpened-overall', values: { edges: ratio } }, SHARPNESS)]
    : [whole('sharpness', { code: 'grain-added', values: { size: grain.size } }, SHARPNESS)];
}

/**
 * How what differs hangs together with fine detail of A: what is sharpened differs where there is detail, and grain
 * does anywhere.
 */
class Grain {
  private count = 0;
  private both = 0;
  private detail = 0;
  private square = 0;

  look({ data, width }: Bitmap, b: Bitmap, x: number, y: number): void {
    const p = 4 * (y * width + x) + 1;
    const row = 8 * width;
    const here = data[p] as number;
    const detail =
      here -
      ((data[p - 8] as number) + (data[p + 8] as number) + (data[p - row] as number) + (data[p + row] as number)) / 4;
    const change = (b.data[p] as number) - here;
    this.count++;
    this.both += detail * change;
    this.detail += detail * detail;
    this.square += change * change;
  }

  /** Correlation, −1 to 1. */
  get alongDetail(): number {
    return this.both / (sqrt(this.detail * this.square) || 1);
  }

  /** Standard deviation of what differs, in bytes. */
  get size(): number {
    return sqrt(this.square / max(1, this.count));
  }
}

export function compression(a: Picture, b: Picture, alignment: Alignment, { median }: DifferenceMap): CauseDraft[] {
  if (median < 0.05 || !alignment.found) return [];
  if (!b.lossy) return [whole('recompressed', { code: 'recomputed', values: { noise: median } }, 2)];
  const values = { noise: median, ...(a.lossy ? {} : { as: b.savedAs }) };
  return [whole('recompressed', { code: 'recompressed', values }, 2)];
}

/** What the files say of themselves. */
export function files(a: Picture, b: Picture): CauseDraft[] {
  const out: CauseDraft[] = [];
  const differs = (kind: CauseKind, saying: Saying, weight: number): void => void out.push(whole(kind, saying, weight));
  if (abs((a.density ?? 0) - (b.density ?? 0)) > 0.6)
    differs('page', { code: 'resolution', values: { from: a.density, to: b.density } }, 3);
  if (a.profile !== b.profile)
    differs('profile', { code: 'profile', values: { from: a.profile ?? 'none', to: b.profile ?? 'none' } }, 4);
  if (a.depth !== b.depth) differs('property', { code: 'depth', values: { from: a.depth, to: b.depth } }, 3);
  if (a.colours !== b.colours)
    differs('profile', { code: 'colour-model', values: { from: a.colours, to: b.colours } }, 5);
  if (a.transparent !== b.transparent)
    differs('property', { code: 'transparency', values: { possible: b.transparent } }, 3);
  if ((a.palette ?? false) !== (b.palette ?? false))
    differs('property', { code: 'palette', values: { limited: b.palette ?? false } }, 3);
  if (a.savedAs !== b.savedAs)
    differs('rewritten', { code: 'saved-as', values: { from: a.savedAs, to: b.savedAs } }, 3);
  return out;
}
