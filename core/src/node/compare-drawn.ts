/** Compares a page of one kind with a page or picture of another: a print with the drawing that it was plotted from, a scan with a sheet. */
import { sideOf, ENGINE, type Input } from '../compare-files.ts';
import { summarise } from '../compare/summary.ts';
import type { Comparison } from '../contract/comparison.ts';
import { boxAround, type Box } from '../geometry/box.ts';
import { multiply, scaleOf, type Matrix } from '../geometry/matrix.ts';
import type { Design } from '../model/design.ts';
import { align, type Alignment } from '../raster/align.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import { comparePictures, type ComparedPictures } from '../raster/compare-pictures.ts';
import { PICTURE_PAGE } from '../raster/places.ts';
import { compareWords, type Line } from '../raster/compare-words.ts';
import { pictureFormats, type Picture } from '../raster/picture.ts';
import { strokesBetween } from '../raster/strokes.ts';
import { drawPage } from './drawn.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, atan2, floor, max, min, round, sqrt } = Math;

export interface ComparedDrawn {
  readonly comparison: Comparison;
  readonly found: ComparedPictures;
  readonly a: Bitmap;
  readonly b: Bitmap;
  /** Index of the page that was drawn, on each side. */
  readonly pages: readonly [number, number];
}

/** Longer side of what is drawn, in pixels. */
export const DRAWN_SIDE = 2000;
/** How far a line may lie beside where it should, and room around words, in pixels. */
const REACH = 3;
const ROOM = 6;
/** Share of its length by which a line may be longer in another font. */
const WIDER = 0.15;
/** The same where pages are only told from one another, and how many are tried. */
const SMALL = 260;
const MOST_TRIED = 24;

/** Throws ReadError where one side cannot be drawn. */
export async function compareDrawn(a: Input, b: Input): Promise<ComparedDrawn> {
  const pages = await samePages(a, b);
  const [pa, pb] = [await drawPage(a, pages[0], DRAWN_SIDE), await drawPage(b, pages[1], DRAWN_SIDE)];
  const plain = (bitmap: Bitmap): Picture => ({
    bitmap,
    format: 'png',
    depth: 8,
    density: undefined,
    profile: undefined,
    colours: 'srgb',
    transparent: false,
    pages: 1,
    notes: [],
  });
  const ownA = linesOf(a.opened.design, pages[0], pa);
  const ownB = linesOf(b.opened.design, pages[1], pb);
  const worded = ownA.length > 0 && ownB.length > 0;
  const linesA = worded ? ownA : undefined;
  const linesB = worded ? ownB : undefined;
  // Words are compared as words, for programs set them each in their own way.
  const beside = (m: Matrix): Box[] =>
    linesA && linesB
      ? [...linesA.map((l) => boxAround(l.box, m)), ...linesB.map((l) => l.box)].map(([x0, y0, x1, y1]): Box => [
          x0 - ROOM,
          y0 - ROOM,
          x1 + ROOM + WIDER * (x1 - x0),
          y1 + ROOM,
        ])
      : [];
  const scanned = [a, b].some((side) => side.opened.format && pictureFormats.has(side.opened.format.id));
  const found = comparePictures(plain(pa), plain(pb), {
    difference: (seen, other, covered, m) =>
      strokesBetween(seen, other, covered, { reach: REACH, beside: beside(m), scanned }),
  });
  const { matrix } = found.alignment;
  const within = (box: Box, of: Bitmap): boolean => box[0] < of.width && box[1] < of.height && box[2] > 0 && box[3] > 0;
  const sheet = boxAround([0, 0, pa.width, pa.height], matrix);
  const seen = linesA?.map((l) => ({ words: l.words, box: boxAround(l.box, matrix) }));
  // Only what both pages show can be compared.
  const inBoth =
    linesA && linesB && seen
      ? {
          a: linesA.filter((_, i) => within((seen[i] as Line).box, pb)),
          seen: seen.filter((l) => within(l.box, pb)),
          b: linesB.filter((l) => covers(sheet, l.box)),
        }
      : undefined;
  const words =
    inBoth && found.alignment.found
      ? compareWords(inBoth.a, inBoth.seen, inBoth.b, PICTURE_PAGE, 0.04 * DRAWN_SIDE, found.changes.length + 1)
      : { changes: [], causes: [] };
  // Places where words changed are said already; whole settings differ between any two plots.
  const said = new Set(
    found.changes
      .filter((c) =>
        words.changes.some(
          (w) => overlap(c.boxB ?? c.boxA, w.boxB ?? (w.boxA ? boxAround(w.boxA, matrix) : null)) > 0.6,
        ),
      )
      .map((c) => c.id),
  );
  const changes = [...found.changes.filter((c) => !said.has(c.id)), ...words.changes];
  const causes = [
    ...found.causes.flatMap((c) => {
      const own = c.changes.filter((id) => !said.has(id));
      return own.length
        ? [
            {
              ...c,
              sentence: c.sentence.replace(/^Painted over/, 'Drawn differently'),
              changes: own,
              parts: own.length,
            },
          ]
        : [];
    }),
    ...words.causes,
  ]
    .sort((p, q) => q.weight - p.weight)
    .map((c, n) => ({ ...c, id: `k${n + 1}` }));
  const tally = (kind: string): number => changes.filter((c) => c.kind === kind).length;
  const counts = {
    added: tally('added'),
    removed: tally('removed'),
    changed: tally('changed'),
    moved: tally('moved'),
    unchanged: 0,
  };
  const comparison: Comparison = {
    engine: ENGINE,
    level: 'pixels',
    unit: 'px',
    a: { ...sideOf(a), level: 'pixels' },
    b: { ...sideOf(b), level: 'pixels' },
    counts,
    changes,
    causes,
    tolerance: 0,
    summary: summarise('pixels', changes, counts, causes),
    notes: [
      `Compared as drawn, by pixels${words === undefined || !inBoth ? '' : ' and by words'}: ${named(a, pages[0])} is laid over ${named(b, pages[1])}${sayLaid(found.alignment)}.`,
      ...(found.alignment.found
        ? []
        : ['The two have too little in common to be laid over one another; they are compared corner to corner.']),
    ],
  };
  return { comparison, found, a: pa, b: pb, pages };
}

const titles = (input: Input): string => input.opened.format?.title ?? 'file';

const named = (input: Input, page: number): string =>
  `${(input.opened.design?.pages.length ?? 1) > 1 ? `${input.opened.design?.pages[page]?.name ?? 'a page'} of ` : ''}the ${titles(input)}`;

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

/** The pages that show the same: by their words, or else by how well they lie over one another. */
async function samePages(a: Input, b: Input): Promise<[number, number]> {
  const countA = a.opened.design?.pages.length ?? 1;
  const countB = b.opened.design?.pages.length ?? 1;
  if (countA === 1 && countB === 1) return [0, 0];
  const wordsA = pageWords(a.opened.design, countA);
  const wordsB = pageWords(b.opened.design, countB);
  let best: { pages: [number, number]; score: number } = { pages: [0, 0], score: 0 };
  wordsA.forEach((p, i) =>
    wordsB.forEach((q, j) => {
      const shared = [...p].filter((t) => q.has(t)).length;
      const score = p.size && q.size ? shared / min(p.size, q.size) + shared / 1e6 : 0;
      if (score > best.score) best = { pages: [i, j], score };
    }),
  );
  if (best.score > 0.3) return best.pages;
  const drawn = async (input: Input, count: number): Promise<{ small: Bitmap; ink: Float32Array }[]> => {
    const out: { small: Bitmap; ink: Float32Array }[] = [];
    for (let k = 0; k < min(count, MOST_TRIED); k++) {
      const small = await drawPage(input, k, SMALL);
      out.push({ small, ink: inkOf(small) });
    }
    return out;
  };
  const allA = await drawn(a, countA);
  const allB = await drawn(b, countB);
  const ranked = allA
    .flatMap((p, i) => allB.map((q, j) => ({ i, j, score: correlated(p.ink, q.ink) })))
    .sort((p, q) => q.score - p.score);
  const [first, second] = ranked;
  // Where ink lies as nowhere else, that is the page; else the likeliest are laid over one another.
  if (first && (!second || first.score - second.score > CLEARLY)) return [first.i, first.j];
  for (const { i, j } of ranked.slice(0, CLOSELY)) {
    const { found, fit } = align((allA[i] as { small: Bitmap }).small, (allB[j] as { small: Bitmap }).small);
    if (found && fit > best.score) best = { pages: [i, j], score: fit };
  }
  return best.pages;
}

const CLEARLY = 0.1;
const CLOSELY = 4;
/** Squares across and down by which pages are told from one another, and how far these may lie apart. */
const GRID = 40;
const APART = 2;

/** How dark each square of a page is, less the mean. */
function inkOf({ width, height, data }: Bitmap): Float32Array {
  const out = new Float32Array(GRID * GRID);
  const counts = new Float32Array(GRID * GRID);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = 4 * (y * width + x);
      const k = floor((y * GRID) / height) * GRID + floor((x * GRID) / width);
      out[k] = (out[k] as number) + 255 - (data[p + 1] as number);
      counts[k] = (counts[k] as number) + 1;
    }
  }
  const means = out.map((v, k) => v / max(1, counts[k] as number));
  const mean = means.reduce((n, v) => n + v, 0) / means.length;
  return means.map((v) => v - mean);
}

/** Greatest correlation of two pages that lie up to APART squares apart. */
function correlated(p: Float32Array, q: Float32Array): number {
  let best = -1;
  for (let dy = -APART; dy <= APART; dy++) {
    for (let dx = -APART; dx <= APART; dx++) {
      let pq = 0;
      let pp = 0;
      let qq = 0;
      for (let y = max(0, dy); y < min(GRID, GRID + dy); y++) {
        for (let x = max(0, dx); x < min(GRID, GRID + dx); x++) {
          const u = p[y * GRID + x] as number;
          const v = q[(y - dy) * GRID + x - dx] as number;
          pq += u * v;
          pp += u * u;
          qq += v * v;
        }
      }
      if (pp > 0 && qq > 0) best = max(best, pq / sqrt(pp * qq));
    }
  }
  return best;
}

const pageWords = (design: Design | undefined, count: number): Set<string>[] => {
  const out = Array.from({ length: count }, () => new Set<string>());
  for (const p of design?.parts ?? [])
    if (p.lettering)
      out[p.page]?.add(
        (p.lettering.words ?? p.lettering.runs.map((r) => r.text).join(' ')).toLowerCase().replace(/\s+/g, ' ').trim(),
      );
  return out;
};
