/** Which pages of two documents show the same: by their words, or else by how well they lie over one another. */
import type { Design } from '../../../model/design.ts';
import type { Pictures } from '../../../model/format.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { align } from '../align/align.ts';

/** Taken out of their object once: they are called for every pixel. */
const { floor, max, min, sqrt } = Math;

/** Longer side of pages that are only told from one another, in pixels, and how many are tried. */
const SMALL = 260;
const MOST_TRIED = 24;
/** Share of the words that two pages must have in common. */
const SHARED = 0.3;

type Pair = [a: number, b: number];

/** Throws ReadError where a page cannot be drawn. */
export async function samePages(a: Pictures, b: Pictures): Promise<Pair> {
  const count = (pictures: Pictures): number => (pictures.drawnFrom ? pictures.count : 1);
  if (count(a) === 1 && count(b) === 1) return [0, 0];
  return (
    byWords(a.drawnFrom, count(a), b.drawnFrom, count(b)) ?? byInk(await inked(a, count(a)), await inked(b, count(b)))
  );
}

function byWords(a: Design | undefined, countA: number, b: Design | undefined, countB: number): Pair | undefined {
  const wordsA = pageWords(a, countA);
  const wordsB = pageWords(b, countB);
  let best: { pages: Pair; score: number } | undefined;
  wordsA.forEach((p, i) =>
    wordsB.forEach((q, j) => {
      const shared = [...p].filter((t) => q.has(t)).length;
      const score = p.size && q.size ? shared / min(p.size, q.size) + shared / 1e6 : 0;
      if (score > (best?.score ?? SHARED)) best = { pages: [i, j], score };
    }),
  );
  return best?.pages;
}

interface Inked {
  readonly small: Bitmap;
  readonly ink: Float32Array;
}

async function inked(pictures: Pictures, count: number): Promise<Inked[]> {
  const out: Inked[] = [];
  for (let k = 0; k < min(count, MOST_TRIED); k++) {
    const { bitmap: small } = await pictures.page(k, SMALL);
    out.push({ small, ink: inkOf(small) });
  }
  return out;
}

function byInk(a: readonly Inked[], b: readonly Inked[]): Pair {
  const ranked = a
    .flatMap((p, i) => b.map((q, j) => ({ i, j, score: correlated(p.ink, q.ink) })))
    .sort((p, q) => q.score - p.score);
  const [first, second] = ranked;
  // Where ink lies as nowhere else, that is the page; else the likeliest are laid over one another.
  if (first && (!second || first.score - second.score > CLEARLY)) return [first.i, first.j];
  let best: { pages: Pair; score: number } = { pages: [0, 0], score: 0 };
  for (const { i, j } of ranked.slice(0, CLOSELY)) {
    const { found, fit } = align((a[i] as Inked).small, (b[j] as Inked).small);
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
