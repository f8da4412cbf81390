/** What was done to all of a picture: its geometry, its colours, its sharpness, how it was saved, and what the file says of itself. */
import type { CauseKind } from '../contract/comparison.ts';
import { applyX, applyY } from '../geometry/matrix.ts';
import type { Alignment } from './align.ts';
import type { Bitmap } from './bitmap.ts';
import { CELL, THRESHOLD, type DifferenceMap } from './difference.ts';
import type { Picture } from './picture.ts';
import type { ToneChange } from './tone.ts';

/** Taken out of their object once: they are called for every square. */
const { PI, abs, atan2, floor, hypot, max, min, sqrt } = Math;

export type Fact = readonly [kind: CauseKind, sentence: string, weight: number];

const n = (v: number, digits = 2): string => String(Number(v.toFixed(digits))).replace('-', '−');
const sizeOf = ({ width, height }: Bitmap): string => `${width} × ${height}`;

/** What was done to the whole: cropped, resized, turned, mirrored, shifted. */
export function geometry(a: Picture, b: Picture, { matrix: m, found }: Alignment): Fact[] {
  const from = a.bitmap;
  const to = b.bitmap;
  const out: Fact[] = [];
  const resized = from.width !== to.width || from.height !== to.height;
  if (!found) return resized ? [['page', `Size ${sizeOf(from)} → ${sizeOf(to)} px`, 8]] : [];
  const mirrored = m[0] * m[3] - m[1] * m[2] < 0;
  const sx = hypot(m[0], m[1]);
  const sy = hypot(m[2], m[3]);
  const turn = (atan2(m[1], m[0]) * 180) / PI;
  if (mirrored)
    out.push([
      'flipped',
      abs(turn) > 135
        ? 'Mirrored left to right'
        : abs(turn) < 45
          ? 'Mirrored top to bottom'
          : 'Mirrored across a diagonal',
      8.5,
    ]);
  else if (abs(turn) > 0.03)
    out.push(['turned', `Turned by ${n(abs(turn))}° ${turn > 0 ? 'clockwise' : 'anticlockwise'}`, 8.5]);
  const scaled = abs(sx - 1) > 0.0015 || abs(sy - 1) > 0.0015;
  if (scaled)
    out.push([
      'resampled',
      abs(sx / sy - 1) < 0.01
        ? `Resampled to ${n(sx * 100, 1)} %: ${sizeOf(from)} → ${sizeOf(to)} px`
        : `Stretched to ${n(sx * 100, 1)} % across and ${n(sy * 100, 1)} % down: ${sizeOf(from)} → ${sizeOf(to)} px`,
      8,
    ]);
  const corners = [
    [0, 0],
    [from.width, 0],
    [0, from.height],
    [from.width, from.height],
  ] as const;
  const xs = corners.map(([x, y]) => applyX(m, x, y));
  const ys = corners.map(([x, y]) => applyY(m, x, y));
  const sides = [min(...xs), min(...ys), to.width - max(...xs), to.height - max(...ys)];
  const names = ['left', 'top', 'right', 'bottom'];
  const plain = !mirrored && abs(turn) <= 0.03;
  if (plain && resized) {
    const cut = sides.flatMap((v, k) => (v < -0.75 ? [`${n(-v, 0)} px at the ${names[k]}`] : []));
    const grown = sides.flatMap((v, k) => (v > 0.75 ? [`${n(v, 0)} px at the ${names[k]}`] : []));
    if (cut.length)
      out.push(['cropped', `Cropped: ${sizeOf(from)} → ${sizeOf(to)} px, ${cut.join(', ')} cut off`, 8.5]);
    if (grown.length)
      out.push(['page', `Canvas made larger: ${sizeOf(from)} → ${sizeOf(to)} px, ${grown.join(', ')} added`, 8]);
  } else if (plain && !scaled && (m[4] !== 0 || m[5] !== 0))
    out.push(['origin', `Shifted by (${n(m[4])}, ${n(m[5])}) px`, 8]);
  return out;
}

export function tones({ lightness, contrast, saturation, hue, cast }: ToneChange): Fact[] {
  const out: Fact[] = [];
  if (abs(lightness) > 0.8)
    out.push([
      'tone',
      `${lightness > 0 ? 'Brighter' : 'Darker'} overall, lightness ${lightness > 0 ? '+' : '−'}${n(abs(lightness), 1)} of 100`,
      8,
    ]);
  if (abs(contrast - 1) > 0.05) out.push(['tone', `${contrast > 1 ? 'More' : 'Less'} contrast, × ${n(contrast)}`, 7.9]);
  if (saturation < 0.12) out.push(['tone', 'Colours removed', 8.2]);
  else if (abs(saturation - 1) > 0.06)
    out.push(['tone', `Colours ${saturation > 1 ? 'stronger' : 'weaker'}, × ${n(saturation)}`, 7.8]);
  if (abs(hue) > 2 && saturation >= 0.12) out.push(['tone', `Hues turned by ${n(hue, 0)}°`, 7.9]);
  const [red, yellow] = cast;
  if (hypot(red, yellow) > 1.2 && saturation >= 0.12)
    out.push([
      'tone',
      `Tinted: more ${abs(red) > abs(yellow) ? (red > 0 ? 'red' : 'green') : yellow > 0 ? 'yellow' : 'blue'}`,
      7.5,
    ]);
  return out;
}

/** Share of the strongest edges that tell whether a picture was blurred: compressing takes fine grain away, but leaves these. */
const EDGES = 0.03;

/** How strong edges are after ÷ before, in quiet squares. */
/** Whether all was blurred or sharpened, or grain put over it, judged where nothing else was done. */
export function sharpness(a: Bitmap, b: Bitmap, map: DifferenceMap, compressed: boolean): Fact[] {
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
  if (ratio < (compressed ? 0.55 : 0.75)) return [['sharpness', `Blurred overall: edges × ${n(ratio)}`, 7.5]];
  if (ratio <= 1.3) return [];
  return grain.alongDetail > 0.3
    ? [['sharpness', `Sharpened overall: edges × ${n(ratio)}`, 7.5]]
    : [['sharpness', `Grain added all over: ± ${n(grain.size, 1)} of 255`, 7.5]];
}

/** How what differs hangs together with fine detail of A: what is sharpened differs where there is detail, and grain does anywhere. */
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

export const lossy: ReadonlySet<string> = new Set(['jpeg', 'webp', 'avif']);

export function compression(a: Picture, b: Picture, alignment: Alignment, { median }: DifferenceMap): Fact[] {
  if (median < 0.05 || !alignment.found) return [];
  const said = `fine noise of ${n(median, 1)} (CIEDE2000) on most of it`;
  return lossy.has(b.format)
    ? [['recompressed', `Compressed ${lossy.has(a.format) ? 'anew' : 'as ' + b.format.toUpperCase()}: ${said}`, 2]]
    : [['recompressed', `Computed anew: ${said}`, 2]];
}

/** What the files say of themselves. */
export function files(a: Picture, b: Picture): Fact[] {
  const out: Fact[] = [];
  const dpi = (v: number | undefined): string => (v === undefined ? 'not given' : `${n(v, 1)} dpi`);
  if ((a.density ?? 0) !== (b.density ?? 0) && abs((a.density ?? 0) - (b.density ?? 0)) > 0.6)
    out.push(['page', `Resolution ${dpi(a.density)} → ${dpi(b.density)}`, 3]);
  if (a.profile !== b.profile)
    out.push(['profile', `Colour profile ${a.profile ?? 'none'} → ${b.profile ?? 'none'}`, 4]);
  if (a.depth !== b.depth) out.push(['property', `${a.depth} → ${b.depth} bits a channel`, 3]);
  if (a.colours !== b.colours) out.push(['profile', `Colour model ${a.colours} → ${b.colours}`, 5]);
  if (a.transparent !== b.transparent)
    out.push(['property', b.transparent ? 'May be transparent now' : 'Not transparent any more', 3]);
  if ((a.palette ?? false) !== (b.palette ?? false))
    out.push(['property', b.palette ? 'Colours limited to a palette' : 'Colours no longer limited to a palette', 3]);
  if (a.format !== b.format)
    out.push(['rewritten', `Saved as ${b.format.toUpperCase()}, before as ${a.format.toUpperCase()}`, 3]);
  return out;
}
