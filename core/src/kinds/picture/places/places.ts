/** From regions that differ to places with what was done there, and to the causes that they have in common. */
import type { CauseDraft, ChangeDraft } from '../../../causes/draft.ts';
import { EVERYWHERE, type Nature } from '../../../causes/sayings/picture.ts';
import type { CauseKind } from '../../../contract/comparison.ts';
import { applyX, applyY, inverse, type Matrix } from '../../../geometry/matrix.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { CELL, THRESHOLD, type DifferenceMap } from '../difference/difference-map.ts';
import { leftOver, movedWithin, offsetBetween, type Offset } from './moved.ts';
import { natureOf, sameContent, type Squares } from './nature.ts';
import { regionsOf, type Region } from '../difference/regions.ts';

/** Taken out of their object once: they are called for every square. */
const { ceil, floor, hypot, log10, max, min, round, sqrt } = Math;

/** Name of the only page of a picture. */
export const PICTURE_PAGE = 'Picture';

/** Where two pictures lie that are cut out of larger ones: offset in pixels, and size of the whole. */
export interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** x and y of the squares of each region, in pixels, alternating; no more than tell what it is. */
function squaresOf(labels: Int32Array, columns: number): Squares[] {
  const out: number[][] = [];
  const seen: number[] = [];
  for (let i = 0; i < labels.length; i++) {
    const k = labels[i] as number;
    if (k < 0 || k >= CLOSELY) continue;
    const list = out[k] ?? [];
    out[k] = list;
    const n = (seen[k] ?? 0) + 1;
    seen[k] = n;
    // Every one of the first, then ever fewer.
    if (n <= 400 || n % ceil(n / 400) === 0) list.push((i % columns) * CELL, floor(i / columns) * CELL);
  }
  return out;
}

/** Ink is there or not: what photographs have besides is drawn differently. */
const ofDrawing = (nature: Nature, drawn: boolean): Nature =>
  !drawn || nature === 'added' || nature === 'removed' || nature === 'moved' ? nature : 'redrawn';

export interface PicturePlace {
  readonly change: ChangeDraft;
  /** Of what moved: by how much, in pixels. */
  readonly by?: Offset;
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

export interface Judged {
  readonly region: Region;
  readonly nature: Nature;
  /** Of what moved: where it was, and by how much it moved, in pixels. */
  readonly was?: Region['box'];
  readonly by?: Offset;
}

export interface FoundPlaces {
  readonly regions: readonly Region[];
  readonly labels: Int32Array;
  readonly map: DifferenceMap;
}

/** `a` lies over `b`. */
export function judge(a: Bitmap, b: Bitmap, found: FoundPlaces, toned: boolean, drawn: boolean): Judged[] {
  const squares = squaresOf(found.labels, found.map.columns);
  const changed: Nature = drawn ? 'redrawn' : 'repainted';
  const judged = found.regions.flatMap((region, k): (Judged & { readonly label: number })[] => {
    const own = squares[k] ?? [];
    const nature = k < CLOSELY ? ofDrawing(natureOf(a, b, region, own), drawn) : changed;
    // Colours that reached their limits do not follow where all others went.
    if (toned && region.mean <= SLIGHT && followed.has(nature)) return [];
    // What is everywhere was not put into anything.
    return [
      {
        region,
        label: k,
        nature:
          (nature === 'added' || nature === 'removed') && whereOf(region.box, b) === EVERYWHERE ? changed : nature,
      },
    ];
  });
  // Only the weightiest are looked for elsewhere: where there are many places, nothing was moved from one to another.
  const first = judged.slice(0, MOVED);
  const gone = new Set<number>();
  const from = new Map<number, Region['box']>();
  first.forEach(({ region: to, nature }, j) => {
    if (nature === 'removed') return;
    const i = first.findIndex(
      ({ region: r }, k) => k !== j && !gone.has(k) && !from.has(k) && sameContent(a, r.box, b, to.box),
    );
    if (i < 0) return;
    gone.add(i);
    from.set(j, (first[i] as Judged).region.box);
  });
  return judged.flatMap(({ region, nature, label }, k): Judged[] => {
    if (gone.has(k)) return [];
    const was = from.get(k);
    if (was) return [{ region, nature: 'moved', was, by: offsetBetween(a, was, b, region.box) }];
    const all = k < MOVED && !drawn && !unmoved.has(nature) ? allSquares(found, region, label) : [];
    const by = movedWithin(a, b, region, all);
    return by ? movedApart(a, b, found.map, region, all, by) : [{ region, nature }];
  });
}

const unmoved: ReadonlySet<Nature> = new Set(['blurred', 'sharpened', 'brighter', 'darker']);

/** Every square of one region. */
function allSquares({ labels, map: { columns } }: FoundPlaces, { box }: Region, label: number): number[] {
  const out: number[] = [];
  for (let y = box[1]; y < box[3]; y += CELL)
    for (let x = box[0]; x < box[2]; x += CELL) if (labels[(y / CELL) * columns + x / CELL] === label) out.push(x, y);
  return out;
}

/** A place that was moved within itself, and what its move does not explain. */
function movedApart(a: Bitmap, b: Bitmap, map: DifferenceMap, region: Region, own: Squares, by: Offset): Judged[] {
  const [x0, y0, x1, y1] = region.box;
  const [dx, dy] = by;
  const to = [x0 + max(0, dx), y0 + max(0, dy), x1 + min(0, dx), y1 + min(0, dy)] as const;
  const moved: Judged = {
    region: { ...region, box: to },
    nature: 'moved',
    was: [to[0] - dx, to[1] - dy, to[2] - dx, to[3] - dy],
    by,
  };
  const left = leftOver(a, b, own, by);
  const beyond = new Float32Array(left.length ? map.beyond.length : 0);
  for (let k = 0; k < left.length; k += 2) {
    const i = ((left[k + 1] as number) / CELL) * map.columns + (left[k] as number) / CELL;
    beyond[i] = map.beyond[i] as number;
  }
  const rest = left.length ? regionsOf({ ...map, beyond }, b, THRESHOLD) : { regions: [], labels: new Int32Array() };
  const squares = squaresOf(rest.labels, map.columns);
  // Thin ones are seams of the move.
  return [
    moved,
    ...rest.regions.flatMap((r, k): Judged[] =>
      min(r.box[2] - r.box[0], r.box[3] - r.box[1]) > 2 * CELL
        ? [{ region: r, nature: natureOf(a, b, r, squares[k] ?? []) }]
        : [],
    ),
  ];
}

export function placesOf(
  judged: readonly Judged[],
  a: Bitmap,
  b: Bitmap,
  matrix: Matrix,
  frame: Frame,
): PicturePlace[] {
  const back = inverse(matrix);
  return judged.map(({ region, nature, was = region.box, by }, k) => {
    const seen = shifted(region.box, frame);
    const where = whereOf(seen, frame);
    const part = { key: null, kind: 'place', name: `${k + 1}, ${where}`, category: '', page: PICTURE_PAGE };
    const boxA = shifted(inA(was, back), frame);
    const colours = [meanColour(a, was), meanColour(b, region.box)] as const;
    const kind = nature === 'added' || nature === 'removed' || nature === 'moved' ? nature : 'changed';
    return {
      nature,
      region,
      where,
      ...(by ? { by } : {}),
      change: {
        kind,
        part,
        ...(kind === 'added' ? {} : { partA: part }),
        ...(kind === 'removed' ? {} : { partB: part }),
        what: [
          by
            ? {
                aspect: 'placement',
                property: 'moved',
                from: `(${was[0] + frame.x}, ${was[1] + frame.y})`,
                to: `(${was[0] + frame.x + by[0]}, ${was[1] + frame.y + by[1]}), by (${by.join(', ').replace(/-/g, '−')}) px`,
              }
            : { aspect: 'image', property: words[nature], from: colours[0], to: colours[1] },
          {
            aspect: 'image',
            property: 'difference',
            from: '0',
            to: `${region.mean.toFixed(1)} on average, ${region.largest.toFixed(1)} at most, over ${region.area.toLocaleString('en')} px`,
          },
        ],
        boxA: kind === 'added' ? null : boxA,
        boxB: kind === 'removed' ? null : seen,
        size: by ? hypot(...by) : hypot(region.box[2] - region.box[0], region.box[3] - region.box[1]),
      },
    };
  });
}

type Four = [number, number, number, number];

const shifted = (box: readonly [number, number, number, number], { x, y }: Frame): Four => [
  box[0] + x,
  box[1] + y,
  box[2] + x,
  box[3] + y,
];

function inA(box: Region['box'], back: Matrix | undefined): Four {
  if (!back) return [...box];
  const xs = [box[0], box[2]].flatMap((x) => [box[1], box[3]].map((y) => applyX(back, x, y)));
  const ys = [box[0], box[2]].flatMap((x) => [box[1], box[3]].map((y) => applyY(back, x, y)));
  const cents = (v: number): number => round(v * 100) / 100;
  return [cents(min(...xs)), cents(min(...ys)), cents(max(...xs)), cents(max(...ys))];
}

/** The mean colour as #rrggbb. */
function meanColour(of: Bitmap, [x0, y0, x1, y1]: Region['box']): string {
  const sum = [0, 0, 0];
  const step = max(1, floor(sqrt(((x1 - x0) * (y1 - y0)) / 4000)));
  let n = 0;
  for (let y = max(0, y0); y < min(of.height, y1); y += step) {
    for (let x = max(0, x0); x < min(of.width, x1); x += step, n++) {
      for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (of.data[4 * (y * of.width + x) + c] as number);
    }
  }
  return `#${sum
    .map((v) =>
      round(v / max(1, n))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

const words: Readonly<Record<Nature, string>> = {
  added: 'something added',
  removed: 'something removed',
  moved: 'moved',
  recoloured: 'recoloured',
  brighter: 'brighter',
  darker: 'darker',
  blurred: 'blurred',
  sharpened: 'sharpened',
  repainted: 'painted over',
  redrawn: 'drawn differently',
};

/** "upper left", "middle", "bottom" … */
/** The word for the first or the last third of something; none for its middle. */
function third(share: number, first: string, last: string): string {
  if (share < 1 / 3) return first;
  return share > 2 / 3 ? last : '';
}

export function whereOf(
  box: Region['box'],
  { width, height }: { readonly width: number; readonly height: number },
): string {
  if (box[2] - box[0] > 0.6 * width && box[3] - box[1] > 0.6 * height) return EVERYWHERE;
  const x = (box[0] + box[2]) / 2 / width;
  const y = (box[1] + box[3]) / 2 / height;
  const across = third(x, 'left', 'right');
  const down = third(y, 'upper', 'lower');
  if (down && across) return `${down} ${across}`;
  return across || third(y, 'top', 'bottom') || 'middle';
}

const kinds: Readonly<Record<Nature, CauseKind>> = {
  added: 'added',
  removed: 'removed',
  moved: 'motion',
  recoloured: 'style',
  brighter: 'style',
  darker: 'style',
  blurred: 'sharpness',
  sharpened: 'sharpness',
  repainted: 'repainted',
  redrawn: 'repainted',
};

/** Places where something is in common: each move is a cause of its own, other places of one nature are one. */
export function groups(places: readonly PicturePlace[], frame: Frame): CauseDraft[] {
  const byNature = new Map<string, number[]>();
  places.forEach(({ nature, by }, k) => {
    const key = by ? `${nature} ${by.join(' ')}` : nature;
    byNature.set(key, [...(byNature.get(key) ?? []), k]);
  });
  return [...byNature.values()].map((group) => causeOf(places, group, frame));
}

/** Names of places that one sentence has, at most. */
const MOST_NAMED = 2;

function causeOf(places: readonly PicturePlace[], changes: readonly number[], { width, height }: Frame): CauseDraft {
  const list = changes.map((k) => places[k] as PicturePlace);
  const { nature, by, region } = list[0] as PicturePlace;
  const area = list.reduce((n, p) => n + p.region.area, 0);
  const names = [...new Set(list.map((p) => p.where))];
  const [x0, y0, x1, y1] = region.box;
  const values = {
    nature,
    count: list.length,
    ...(list.length === 1 ? { size: [x1 - x0, y1 - y0] as const } : {}),
    ...(by ? { by } : {}),
    where: names.length > MOST_NAMED ? [] : names,
  };
  const share = area / (width * height);
  const weight = 9 + max(-3, log10(share + 1e-6)) + min(2, region.mean / 20);
  return { kind: kinds[nature], saying: { code: 'places', values }, weight, changes };
}
