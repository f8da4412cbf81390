/** From two pictures to what was done: to all of one (moved, resized, brightened, compressed anew) and to places in it. */
import type { Cause, CauseKind, Change, Counts } from '../contract/comparison.ts';
import type { Box } from '../geometry/box.ts';
import { applyX, applyY, inverse, type Matrix } from '../geometry/matrix.ts';
import { plural } from '../text/plural.ts';
import { align, type Alignment } from './align.ts';
import { words as wordsOf, type Bitmap } from './bitmap.ts';
import { through } from './channels.ts';
import { CELL, differenceOf, plainDifferenceOf, THRESHOLD, type DifferenceMap } from './difference.ts';
import { leftOver, movedWithin, offsetBetween, type Offset } from './moved.ts';
import { natureOf, sameContent, type Nature, type Squares } from './nature.ts';
import type { Picture } from './picture.ts';
import { regionsOf, type Region } from './regions.ts';
import { toneBetween, type ToneChange } from './tone.ts';
import { isExact, warp } from './warp.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, atan2, ceil, floor, hypot, log10, max, min, round, sqrt } = Math;

export interface ComparedPictures {
  readonly changes: Change[];
  readonly causes: Cause[];
  readonly counts: Counts;
  readonly notes: string[];
  readonly alignment: Alignment;
  readonly map: DifferenceMap;
}

export type Fact = readonly [kind: CauseKind, sentence: string, weight: number];

/** Name of the only page of a picture. */
export const PICTURE_PAGE = 'Picture';

/** Where two pictures lie that are cut out of larger ones: offset in pixels, and size of the whole. */
export interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface Comparing {
  /** Where B lies, if it is cut out of something larger; boxes and words then speak of that. */
  readonly frame?: Frame;
  /** How much A as B sees it differs from B, where that is not judged as of photographs. */
  readonly difference?: (seen: Bitmap, b: Bitmap, covered: Uint8Array | undefined, matrix: Matrix) => DifferenceMap;
}

export function comparePictures(a: Picture, b: Picture, { frame = { x: 0, y: 0, width: b.bitmap.width, height: b.bitmap.height }, difference }: Comparing = {}): ComparedPictures {
  const alignment = align(a.bitmap, b.bitmap), { bitmap: laid, covered: under } = warp(a.bitmap, alignment.matrix, b.bitmap), covered = withoutLost(under, a, b, alignment.matrix);
  const tone = difference ? undefined : toneBetween(laid, b.bitmap, covered), seen = tone?.channels ? through(laid, tone.channels) : laid;
  const map = difference?.(seen, b.bitmap, covered, alignment.matrix) ?? (alignment.found || tone ? withoutEdge(differenceOf(seen, b.bitmap, covered, tone?.channels ? undefined : tone), covered !== undefined && !isExact(alignment.matrix)) : plainDifferenceOf(seen, b.bitmap, covered)), { regions, labels } = regionsOf(map, b.bitmap, THRESHOLD);
  const changes = placesOf(judge(seen, b.bitmap, { regions, labels, map }, tone !== undefined, difference !== undefined), seen, b.bitmap, alignment.matrix, frame);
  const whole = [...geometry(a, b, alignment), ...(tone ? tones(tone.change) : []), ...(alignment.found ? sharpness(seen, b.bitmap, map, lossy.has(b.format)) : [])];
  // Whatever changes all of a picture computes its pixels anew.
  const facts = [...whole, ...(whole.length && !lossy.has(b.format) ? [] : compression(a, b, alignment, map)), ...files(a, b)];
  const causes = [...facts.map(([kind, sentence, weight]) => ({ kind, sentence, weight, parts: 1, changes: [] as string[] })), ...groups(changes, frame)]
    .sort((p, q) => q.weight - p.weight).map((c, n) => ({ id: `k${n + 1}`, ...c, weight: round(c.weight * 100) / 100 }));
  const tally = (kind: Change['kind']): number => changes.filter((c) => c.change.kind === kind).length;
  const notes = [
    ...(alignment.found || isPlain(a.bitmap) || isPlain(b.bitmap) ? [] : ['The two pictures have too little in common to be laid over one another; they are compared corner to corner.']),
    ...(max(a.depth, b.depth) > 8 ? ['Compared at 8 bits a channel.'] : []),
  ];
  return {
    changes: changes.map((c) => c.change), causes, notes, alignment, map,
    counts: { added: tally('added'), removed: tally('removed'), changed: tally('changed'), moved: tally('moved'), unchanged: 0 },
  };
}

/**
 * The places of a comparison as part of a larger one: numbered on from `first`, their parts and boxes seen as that sees them.
 * `ids` leads from the numbers before to those after.
 */
export function placedIn(changes: readonly Change[], first: number, part: (part: Change['part']) => Change['part'], boxes: { readonly a: (box: Box) => Box; readonly b: (box: Box) => Box }): { changes: Change[]; ids: Map<string, string> } {
  const ids = new Map(changes.map((c, k) => [c.id, `c${first + k}`]));
  return {
    ids,
    changes: changes.map((c) => ({
      ...c, id: ids.get(c.id) ?? c.id, part: part(c.part), ...(c.partA ? { partA: part(c.partA) } : {}), ...(c.partB ? { partB: part(c.partB) } : {}), boxA: c.boxA && [...boxes.a(c.boxA)], boxB: c.boxB && [...boxes.b(c.boxB)],
    })),
  };
}

export const asItIs = { a: (box: Box): Box => box, b: (box: Box): Box => box };

/** Whether a picture is one colour all over: it lies anywhere as well as elsewhere. */
function isPlain(bitmap: Bitmap): boolean {
  const pixels = wordsOf(bitmap), stride = max(1, floor(pixels.length / 20_000)) | 1, first = pixels[0];
  for (let i = 0; i < pixels.length; i += stride) if (pixels[i] !== first) return false;
  return true;
}

/** Where a turned or scaled picture ends, its last pixels are mixed with what lies beyond. */
function withoutEdge(map: DifferenceMap, mixed: boolean): DifferenceMap {
  if (!mixed) return map;
  const { columns, rows, shared } = map, beyond = map.beyond.slice();
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const i = y * columns + x;
      if (x === 0 || y === 0 || x === columns - 1 || y === rows - 1 || !(shared[i - 1] && shared[i + 1] && shared[i - columns] && shared[i + columns])) beyond[i] = 0;
    }
  }
  return { ...map, beyond };
}

/** What could not be decoded is no change: it counts as not covered. */
function withoutLost(covered: Uint8Array | undefined, a: Picture, b: Picture, matrix: Matrix): Uint8Array | undefined {
  const { width, height } = b.bitmap, from = floor(min(b.lostFrom ?? height, a.lostFrom === undefined ? height : applyY(matrix, 0, a.lostFrom))) - EDGE;
  if (from >= height - EDGE) return covered;
  const out = covered?.slice() ?? new Uint8Array(width * height).fill(1);
  out.fill(0, max(0, from) * width);
  return out;
}

/** Rows above what was lost that may be wrong, too. */
const EDGE = 16;

/** x and y of the squares of each region, in pixels, alternating; no more than tell what it is. */
function squaresOf(labels: Int32Array, columns: number): Squares[] {
  const out: number[][] = [], seen: number[] = [];
  for (let i = 0; i < labels.length; i++) {
    const k = labels[i] as number;
    if (k < 0 || k >= CLOSELY) continue;
    const list = (out[k] ??= []), n = (seen[k] = (seen[k] ?? 0) + 1);
    // Every one of the first, then ever fewer.
    if (n <= 400 || n % ceil(n / 400) === 0) list.push((i % columns) * CELL, floor(i / columns) * CELL);
  }
  return out;
}

/** Ink is there or not: what photographs have besides is drawn differently. */
const ofDrawing = (nature: Nature, drawn: boolean): Nature => (!drawn || nature === 'added' || nature === 'removed' || nature === 'moved' ? nature : 'repainted');

interface Place {
  readonly change: Change;
  readonly nature: Nature;
  readonly region: Region;
  readonly where: string;
}

/** Where all colours were changed, places that differ from that by less are no edits of their own. */
const SLIGHT = 7;
const followed: ReadonlySet<Nature> = new Set(['recoloured', 'brighter', 'darker', 'blurred', 'sharpened']);
const MOVED = 16;
/** Regions that are looked at closely for what was done to them; the others count as repainted. */
const CLOSELY = 120;

interface Judged {
  readonly region: Region;
  readonly nature: Nature;
  /** Of what moved: where it was, and by how much it moved, in pixels. */
  readonly was?: Region['box'];
  readonly by?: Offset;
}

interface Found {
  readonly regions: readonly Region[];
  readonly labels: Int32Array;
  readonly map: DifferenceMap;
}

/** `a` lies over `b`. */
function judge(a: Bitmap, b: Bitmap, found: Found, toned: boolean, drawn: boolean): Judged[] {
  const squares = squaresOf(found.labels, found.map.columns), judged = found.regions.flatMap((region, k): (Judged & { readonly label: number })[] => {
    const own = squares[k] ?? [], nature = k < CLOSELY ? ofDrawing(natureOf(a, b, region, own), drawn) : 'repainted';
    // Colours that reached their limits do not follow where all others went.
    if (toned && region.mean <= SLIGHT && followed.has(nature)) return [];
    // What is everywhere was not put into anything.
    return [{ region, label: k, nature: (nature === 'added' || nature === 'removed') && whereOf(region.box, b) === everywhere ? 'repainted' : nature }];
  });
  // Only the weightiest are looked for elsewhere: where there are many places, nothing was moved from one to another.
  const first = judged.slice(0, MOVED), gone = new Set<number>(), from = new Map<number, Region['box']>();
  first.forEach(({ region: to, nature }, j) => {
    if (nature === 'removed') return;
    const i = first.findIndex(({ region: r }, k) => k !== j && !gone.has(k) && !from.has(k) && sameContent(a, r.box, b, to.box));
    if (i < 0) return;
    gone.add(i);
    from.set(j, (first[i] as Judged).region.box);
  });
  return judged.flatMap(({ region, nature, label }, k): Judged[] => {
    if (gone.has(k)) return [];
    const was = from.get(k);
    if (was) return [{ region, nature: 'moved', was, by: offsetBetween(a, was, b, region.box) }];
    const all = k < MOVED && !drawn && !unmoved.has(nature) ? allSquares(found, region, label) : [], by = movedWithin(a, b, region, all);
    return by ? movedApart(a, b, found.map, region, all, by) : [{ region, nature }];
  });
}

const unmoved: ReadonlySet<Nature> = new Set(['blurred', 'sharpened', 'brighter', 'darker']);

/** Every square of one region. */
function allSquares({ labels, map: { columns } }: Found, { box }: Region, label: number): number[] {
  const out: number[] = [];
  for (let y = box[1]; y < box[3]; y += CELL) for (let x = box[0]; x < box[2]; x += CELL) if (labels[(y / CELL) * columns + x / CELL] === label) out.push(x, y);
  return out;
}

/** A place that was moved within itself, and what its move does not explain. */
function movedApart(a: Bitmap, b: Bitmap, map: DifferenceMap, region: Region, own: Squares, by: Offset): Judged[] {
  const [x0, y0, x1, y1] = region.box, [dx, dy] = by, to = [x0 + max(0, dx), y0 + max(0, dy), x1 + min(0, dx), y1 + min(0, dy)] as const, moved: Judged = { region: { ...region, box: to }, nature: 'moved', was: [to[0] - dx, to[1] - dy, to[2] - dx, to[3] - dy], by };
  const left = leftOver(a, b, own, by), beyond = new Float32Array(left.length ? map.beyond.length : 0);
  for (let k = 0; k < left.length; k += 2) {
    const i = ((left[k + 1] as number) / CELL) * map.columns + (left[k] as number) / CELL;
    beyond[i] = map.beyond[i] as number;
  }
  const rest = left.length ? regionsOf({ ...map, beyond }, b, THRESHOLD) : { regions: [], labels: new Int32Array() }, squares = squaresOf(rest.labels, map.columns);
  // Thin ones are seams of the move.
  return [moved, ...rest.regions.flatMap((r, k): Judged[] => (min(r.box[2] - r.box[0], r.box[3] - r.box[1]) > 2 * CELL ? [{ region: r, nature: natureOf(a, b, r, squares[k] ?? []) }] : []))];
}

function placesOf(judged: readonly Judged[], a: Bitmap, b: Bitmap, matrix: Matrix, frame: Frame): Place[] {
  const back = inverse(matrix);
  return judged.map(({ region, nature, was = region.box, by }, k) => {
    const seen = shifted(region.box, frame), where = whereOf(seen, frame), part = { key: null, kind: 'place', name: `${k + 1}, ${where}`, category: '', page: PICTURE_PAGE }, boxA = shifted(inA(was, back), frame), colours = [meanColour(a, was), meanColour(b, region.box)] as const;
    const kind = nature === 'added' || nature === 'removed' || nature === 'moved' ? nature : 'changed';
    return {
      nature, region, where, change: {
        id: `c${k + 1}`, kind, part, ...(kind === 'added' ? {} : { partA: part }), ...(kind === 'removed' ? {} : { partB: part }),
        what: [
          by ? { aspect: 'placement', property: 'moved', from: `(${was[0] + frame.x}, ${was[1] + frame.y})`, to: `(${was[0] + frame.x + by[0]}, ${was[1] + frame.y + by[1]}), by (${by.join(', ').replace(/-/g, '−')}) px` } : { aspect: 'image', property: words[nature], from: colours[0], to: colours[1] },
          { aspect: 'image', property: 'difference', from: '0', to: `${region.mean.toFixed(1)} on average, ${region.largest.toFixed(1)} at most, over ${region.area.toLocaleString('en')} px` },
        ],
        boxA: kind === 'added' ? null : boxA, boxB: kind === 'removed' ? null : seen, size: by ? hypot(...by) : hypot(region.box[2] - region.box[0], region.box[3] - region.box[1]),
      },
    };
  });
}

type Four = [number, number, number, number];

const shifted = (box: readonly [number, number, number, number], { x, y }: Frame): Four => [box[0] + x, box[1] + y, box[2] + x, box[3] + y];

function inA(box: Region['box'], back: Matrix | undefined): Four {
  if (!back) return [...box];
  const xs = [box[0], box[2]].flatMap((x) => [box[1], box[3]].map((y) => applyX(back, x, y))), ys = [box[0], box[2]].flatMap((x) => [box[1], box[3]].map((y) => applyY(back, x, y)));
  const cents = (v: number): number => round(v * 100) / 100;
  return [cents(min(...xs)), cents(min(...ys)), cents(max(...xs)), cents(max(...ys))];
}

/** The mean colour as #rrggbb. */
function meanColour(of: Bitmap, [x0, y0, x1, y1]: Region['box']): string {
  const sum = [0, 0, 0], step = max(1, floor(sqrt(((x1 - x0) * (y1 - y0)) / 4000)));
  let n = 0;
  for (let y = max(0, y0); y < min(of.height, y1); y += step) {
    for (let x = max(0, x0); x < min(of.width, x1); x += step, n++) {
      for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (of.data[4 * (y * of.width + x) + c] as number);
    }
  }
  return `#${sum.map((v) => round(v / max(1, n)).toString(16).padStart(2, '0')).join('')}`;
}

const words: Readonly<Record<Nature, string>> = {
  added: 'something added', removed: 'something removed', moved: 'moved', recoloured: 'recoloured', brighter: 'brighter', darker: 'darker', blurred: 'blurred', sharpened: 'sharpened', repainted: 'painted over',
};

const everywhere = 'nearly everywhere';

/** "upper left", "middle", "bottom" … */
export function whereOf(box: Region['box'], { width, height }: { readonly width: number; readonly height: number }): string {
  if (box[2] - box[0] > 0.6 * width && box[3] - box[1] > 0.6 * height) return everywhere;
  const x = (box[0] + box[2]) / 2 / width, y = (box[1] + box[3]) / 2 / height, across = x < 1 / 3 ? 'left' : x > 2 / 3 ? 'right' : '', down = y < 1 / 3 ? 'upper' : y > 2 / 3 ? 'lower' : '';
  if (down && across) return `${down} ${across}`;
  return across || (down === 'upper' ? 'top' : down === 'lower' ? 'bottom' : 'middle');
}

const sentences: Readonly<Record<Nature, string>> = {
  added: 'Something added', removed: 'Something removed', moved: 'Moved', recoloured: 'Recoloured', brighter: 'Made brighter', darker: 'Made darker', blurred: 'Blurred', sharpened: 'Sharpened', repainted: 'Painted over',
};

const kinds: Readonly<Record<Nature, CauseKind>> = {
  added: 'added', removed: 'removed', moved: 'motion', recoloured: 'style', brighter: 'style', darker: 'style', blurred: 'sharpness', sharpened: 'sharpness', repainted: 'repainted',
};

function groups(places: readonly Place[], { width, height }: Frame): Omit<Cause, 'id'>[] {
  const byNature = new Map<string, Place[]>();
  for (const place of places) {
    // Each move is a cause of its own; other places of one kind are one.
    const key = place.nature === 'moved' ? `moved ${place.change.what[0]?.to.replace(/^[^,]*, [^,]*, /, '')}` : place.nature;
    byNature.set(key, [...(byNature.get(key) ?? []), place]);
  }
  return [...byNature.values()].map((list) => {
    const [first] = list as [Place], { nature, change } = first, area = list.reduce((n, p) => n + p.region.area, 0), share = area / (width * height);
    const where = [...new Set(list.map((p) => p.where))], places = where.length > 2 ? '' : ` ${where.map(at).join(' and ')}`;
    const by = nature === 'moved' ? change.what[0]?.to.replace(/^.*, by /, ' by ') ?? '' : '';
    const size = list.length === 1 ? `${first.region.box[2] - first.region.box[0]} × ${first.region.box[3] - first.region.box[1]} px` : plural(list.length, 'place');
    return { kind: kinds[nature], sentence: `${sentences[nature]}${by}: ${size}${places}`, weight: 9 + max(-3, log10(share + 1e-6)) + min(2, first.region.mean / 20), parts: list.length, changes: list.map((p) => p.change.id) };
  });
}

const at = (where: string): string => (where === 'middle' ? 'in the middle' : where === everywhere ? where : `at the ${where}`);

const n = (v: number, digits = 2): string => String(Number(v.toFixed(digits))).replace('-', '−');
const sizeOf = ({ width, height }: Bitmap): string => `${width} × ${height}`;

/** What was done to the whole: cropped, resized, turned, mirrored, shifted. */
export function geometry(a: Picture, b: Picture, { matrix: m, found }: Alignment): Fact[] {
  const from = a.bitmap, to = b.bitmap, out: Fact[] = [], resized = from.width !== to.width || from.height !== to.height;
  if (!found) return resized ? [['page', `Size ${sizeOf(from)} → ${sizeOf(to)} px`, 8]] : [];
  const mirrored = m[0] * m[3] - m[1] * m[2] < 0, sx = hypot(m[0], m[1]), sy = hypot(m[2], m[3]), turn = (atan2(m[1], m[0]) * 180) / PI;
  if (mirrored) out.push(['flipped', abs(turn) > 135 ? 'Mirrored left to right' : abs(turn) < 45 ? 'Mirrored top to bottom' : 'Mirrored across a diagonal', 8.5]);
  else if (abs(turn) > 0.03) out.push(['turned', `Turned by ${n(abs(turn))}° ${turn > 0 ? 'clockwise' : 'anticlockwise'}`, 8.5]);
  const scaled = abs(sx - 1) > 0.0015 || abs(sy - 1) > 0.0015;
  if (scaled) out.push(['resampled', abs(sx / sy - 1) < 0.01 ? `Resampled to ${n(sx * 100, 1)} %: ${sizeOf(from)} → ${sizeOf(to)} px` : `Stretched to ${n(sx * 100, 1)} % across and ${n(sy * 100, 1)} % down: ${sizeOf(from)} → ${sizeOf(to)} px`, 8]);
  const corners = [[0, 0], [from.width, 0], [0, from.height], [from.width, from.height]] as const, xs = corners.map(([x, y]) => applyX(m, x, y)), ys = corners.map(([x, y]) => applyY(m, x, y));
  const sides = [min(...xs), min(...ys), to.width - max(...xs), to.height - max(...ys)], names = ['left', 'top', 'right', 'bottom'];
  const plain = !mirrored && abs(turn) <= 0.03;
  if (plain && resized) {
    const cut = sides.flatMap((v, k) => (v < -0.75 ? [`${n(-v, 0)} px at the ${names[k]}`] : [])), grown = sides.flatMap((v, k) => (v > 0.75 ? [`${n(v, 0)} px at the ${names[k]}`] : []));
    if (cut.length) out.push(['cropped', `Cropped: ${sizeOf(from)} → ${sizeOf(to)} px, ${cut.join(', ')} cut off`, 8.5]);
    if (grown.length) out.push(['page', `Canvas made larger: ${sizeOf(from)} → ${sizeOf(to)} px, ${grown.join(', ')} added`, 8]);
  } else if (plain && !scaled && (m[4] !== 0 || m[5] !== 0)) out.push(['origin', `Shifted by (${n(m[4])}, ${n(m[5])}) px`, 8]);
  return out;
}

function tones({ lightness, contrast, saturation, hue, cast }: ToneChange): Fact[] {
  const out: Fact[] = [];
  if (abs(lightness) > 0.8) out.push(['tone', `${lightness > 0 ? 'Brighter' : 'Darker'} overall, lightness ${lightness > 0 ? '+' : '−'}${n(abs(lightness), 1)} of 100`, 8]);
  if (abs(contrast - 1) > 0.05) out.push(['tone', `${contrast > 1 ? 'More' : 'Less'} contrast, × ${n(contrast)}`, 7.9]);
  if (saturation < 0.12) out.push(['tone', 'Colours removed', 8.2]);
  else if (abs(saturation - 1) > 0.06) out.push(['tone', `Colours ${saturation > 1 ? 'stronger' : 'weaker'}, × ${n(saturation)}`, 7.8]);
  if (abs(hue) > 2 && saturation >= 0.12) out.push(['tone', `Hues turned by ${n(hue, 0)}°`, 7.9]);
  const [red, yellow] = cast;
  if (hypot(red, yellow) > 1.2 && saturation >= 0.12) out.push(['tone', `Tinted: more ${abs(red) > abs(yellow) ? (red > 0 ? 'red' : 'green') : yellow > 0 ? 'yellow' : 'blue'}`, 7.5]);
  return out;
}

/** Share of the strongest edges that tell whether a picture was blurred: compressing takes fine grain away, but leaves these. */
const EDGES = 0.03;

/** How strong edges are after ÷ before, in quiet squares. */
/** Whether all was blurred or sharpened, or grain put over it, judged where nothing else was done. */
function sharpness(a: Bitmap, b: Bitmap, map: DifferenceMap, compressed: boolean): Fact[] {
  if (map.median < 0.2) return [];
  const steps: { a: number; b: number; most: number }[] = [], step = max(1, floor((map.columns * map.rows) / 60_000)), grain = new Grain();
  const largest = (of: Bitmap, x: number, y: number): number => {
    let most = 0;
    for (let k = 0; k < 3; k++) {
      const p = 4 * ((y + k) * of.width + x + k) + 1;
      most = max(most, abs((of.data[p] as number) - (of.data[p + 4] as number)), abs((of.data[p] as number) - (of.data[p + 4 * of.width] as number)));
    }
    return most;
  };
  for (let i = 0; i < map.plain.length; i += step) {
    if (!map.shared[i] || (map.beyond[i] as number) >= THRESHOLD) continue;
    const x = (i % map.columns) * CELL, y = floor(i / map.columns) * CELL;
    if (x < 2 || y < 2 || x + CELL + 2 >= b.width || y + CELL + 2 >= b.height) continue;
    const inA = largest(a, x, y), inB = largest(b, x, y);
    steps.push({ a: inA, b: inB, most: max(inA, inB) });
    grain.look(a, b, x + 1, y + 1);
  }
  steps.sort((p, q) => q.most - p.most);
  const strongest = steps.slice(0, max(20, floor(EDGES * steps.length))), sum = (side: 'a' | 'b'): number => strongest.reduce((all, pair) => all + pair[side], 0), ratio = sum('a') > 0 ? sum('b') / sum('a') : 1;
  // Compressing takes fine noise away: that is not blurring yet.
  if (ratio < (compressed ? 0.55 : 0.75)) return [['sharpness', `Blurred overall: edges × ${n(ratio)}`, 7.5]];
  if (ratio <= 1.3) return [];
  return grain.alongDetail > 0.3 ? [['sharpness', `Sharpened overall: edges × ${n(ratio)}`, 7.5]] : [['sharpness', `Grain added all over: ± ${n(grain.size, 1)} of 255`, 7.5]];
}

/** How what differs hangs together with fine detail of A: what is sharpened differs where there is detail, and grain does anywhere. */
class Grain {
  private count = 0;
  private both = 0;
  private detail = 0;
  private square = 0;

  look({ data, width }: Bitmap, b: Bitmap, x: number, y: number): void {
    const p = 4 * (y * width + x) + 1, row = 8 * width, here = data[p] as number, detail = here - ((data[p - 8] as number) + (data[p + 8] as number) + (data[p - row] as number) + (data[p + row] as number)) / 4, change = (b.data[p] as number) - here;
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

const lossy: ReadonlySet<string> = new Set(['jpeg', 'webp', 'avif']);

function compression(a: Picture, b: Picture, alignment: Alignment, { median }: DifferenceMap): Fact[] {
  if (median < 0.05 || !alignment.found) return [];
  const said = `fine noise of ${n(median, 1)} (CIEDE2000) on most of it`;
  return lossy.has(b.format) ? [['recompressed', `Compressed ${lossy.has(a.format) ? 'anew' : 'as ' + b.format.toUpperCase()}: ${said}`, 2]] : [['recompressed', `Computed anew: ${said}`, 2]];
}

/** What the files say of themselves. */
export function files(a: Picture, b: Picture): Fact[] {
  const out: Fact[] = [], dpi = (v: number | undefined): string => (v === undefined ? 'not given' : `${n(v, 1)} dpi`);
  if ((a.density ?? 0) !== (b.density ?? 0) && abs((a.density ?? 0) - (b.density ?? 0)) > 0.6) out.push(['page', `Resolution ${dpi(a.density)} → ${dpi(b.density)}`, 3]);
  if (a.profile !== b.profile) out.push(['profile', `Colour profile ${a.profile ?? 'none'} → ${b.profile ?? 'none'}`, 4]);
  if (a.depth !== b.depth) out.push(['property', `${a.depth} → ${b.depth} bits a channel`, 3]);
  if (a.colours !== b.colours) out.push(['profile', `Colour model ${a.colours} → ${b.colours}`, 5]);
  if (a.transparent !== b.transparent) out.push(['property', b.transparent ? 'May be transparent now' : 'Not transparent any more', 3]);
  if (a.format !== b.format) out.push(['rewritten', `Saved as ${b.format.toUpperCase()}, before as ${a.format.toUpperCase()}`, 3]);
  return out;
}
