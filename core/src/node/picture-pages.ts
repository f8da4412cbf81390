/** Pictures of several pages or frames: paired by what is on them, then compared one by one. */
import { ENGINE, sideOf, type Input } from '../compare-files.ts';
import { pairAlike } from '../compare/pages.ts';
import type { Picture as Shapes } from '../compare/picture.ts';
import { summarise } from '../compare/summary.ts';
import type { Comparison } from '../contract/comparison.ts';
import { longestRising } from '../match/rising.ts';
import { asItIs, comparePictures, placedIn } from '../raster/compare-pictures.ts';
import { pageName, pagesOf, type Picture } from '../raster/picture.ts';
import type { ComparedFiles } from './compare.ts';
import { shapesOf } from './picture-shapes.ts';
import { decodePicture, sketchOfPage } from './pictures.ts';

/** Pages of a picture that are compared; the others only count. */
const MOST_PAGES = 40;
/** Side of the small views that pages are paired by, in pixels; and how well they must agree (1 for the same). */
const SIDE = 40;
const ALIKE = 0.6;

interface Sketch {
  readonly key: string;
  /** Lightness less its mean, of length 1; all 0 for a plain page. */
  readonly light: Float32Array;
}

async function sketches({ bytes }: Input, count: number): Promise<Sketch[]> {
  const out: Sketch[] = [];
  for (let k = 0; k < count; k++) {
    const small = (await sketchOfPage(bytes, k, SIDE)) ?? new Uint8Array(SIDE * SIDE);
    const mean = small.reduce((sum, v) => sum + v, 0) / small.length;
    const light = Float32Array.from(small, (v) => v - mean);
    const length = Math.hypot(...light);
    out.push({
      key: Buffer.from(small).toString('base64'),
      light: length > SIDE ? light.map((v) => v / length) : light.fill(0),
    });
  }
  return out;
}

const likeness = ({ light: p }: Sketch, { light: q }: Sketch): number =>
  p.reduce((sum, v, k) => sum + v * (q[k] as number), 0);

/** For each page of A that is compared, its page in B, or −1. */
async function pairs(a: Input, countA: number, b: Input, countB: number): Promise<number[]> {
  const [pa, pb] = [await sketches(a, countA), await sketches(b, countB)];
  return pairAlike(
    pa.map((s) => s.key),
    pb.map((s) => s.key),
    (i, j) => likeness(pa[i] as Sketch, pb[j] as Sketch),
    ALIKE,
  );
}

export async function comparePages(a: Input, firstA: Picture, b: Input, firstB: Picture): Promise<ComparedFiles> {
  const [allA, allB] = [pagesOf(firstA), pagesOf(firstB)];
  const [countA, countB] = [Math.min(allA, MOST_PAGES), Math.min(allB, MOST_PAGES)];
  const toB = await pairs(a, countA, b, countB);
  const toA = Array.from({ length: countB }, (_, j) => toB.indexOf(j));
  const page = (input: Input, first: Picture, k: number): Promise<Picture> =>
    k ? decodePicture(input.bytes, first.format, k) : Promise.resolve(first);
  const nameB = (j: number): string => pageName(firstB.format, j);
  const nameA = (i: number): string =>
    (toB[i] as number) >= 0 ? nameB(toB[i] as number) : `${pageName(firstA.format, i)}${i < countB ? ' of A' : ''}`;
  const changes: Comparison['changes'] = [];
  const causes: Omit<Comparison['causes'][number], 'id'>[] = [];
  const notes: string[] = [];
  const pagesB: Shapes['pages']['b'] = [];
  const pagesA: Shapes['pages']['a'] = [];
  const outlines: Shapes['outlines'] = {};
  const laidOn: NonNullable<Shapes['laidOn']> = {};
  const ofPage = (sentence: string): void =>
    void causes.push({ kind: 'page', sentence, weight: 9, parts: 1, changes: [] });
  for (let j = 0; j < countB; j++) {
    const i = toA[j] as number;
    const pb = await page(b, firstB, j);
    const name = nameB(j);
    pagesB[j] = { name, box: [0, 0, pb.bitmap.width, pb.bitmap.height] };
    if (i < 0) {
      ofPage(`${name} added`);
      continue;
    }
    const pa = await page(a, firstA, i);
    const found = comparePictures(pa, pb);
    const shapes = shapesOf(found.changes, pa.bitmap, pb.bitmap, found);
    const { changes: placed, ids } = placedIn(found.changes, changes.length + 1, (p) => ({ ...p, page: name }), asItIs);
    pagesA[i] = { name, box: [0, 0, pa.bitmap.width, pa.bitmap.height] };
    changes.push(...placed);
    for (const [before, after] of ids) outlines[after] = shapes.outlines[before] ?? {};
    for (const { id: _, ...cause } of found.causes)
      causes.push({
        ...cause,
        sentence: `${cause.sentence} on “${name}”`,
        changes: cause.changes.map((id) => ids.get(id) ?? id),
      });
    if (shapes.laid) laidOn[name] = shapes.laid;
    for (const note of found.notes) if (!notes.includes(note)) notes.push(note);
  }
  for (let i = 0; i < countA; i++) {
    if ((toB[i] as number) >= 0) continue;
    const { bitmap } = await page(a, firstA, i);
    pagesA[i] = { name: nameA(i), box: [0, 0, bitmap.width, bitmap.height] };
    ofPage(`${nameA(i)} removed`);
  }
  for (const [i, j] of movedPages(toB)) ofPage(`${nameB(j)} moved: it was ${pageName(firstA.format, i)}`);
  if (Math.max(allA, allB) > MOST_PAGES) notes.push(`Only the first ${MOST_PAGES} pages were compared.`);
  const sorted = causes.sort((p, q) => q.weight - p.weight).map((c, n) => ({ ...c, id: `k${n + 1}` }));
  const tally = (kind: string): number => changes.filter((c) => c.kind === kind).length;
  const counts = {
    added: tally('added'),
    removed: tally('removed'),
    changed: tally('changed'),
    moved: tally('moved'),
    unchanged: 0,
  };
  const side = (i: Input, p: Picture): Comparison['a'] => ({ ...sideOf(i), level: 'pixels', notes: [...p.notes] });
  const comparison: Comparison = {
    engine: ENGINE,
    level: 'pixels',
    unit: 'px',
    a: side(a, firstA),
    b: side(b, firstB),
    counts,
    changes,
    causes: sorted,
    tolerance: 0,
    notes,
    summary: summarise('pixels', changes, counts, sorted),
  };
  return {
    comparison,
    picture: {
      pageA: pagesA[0] ?? null,
      pageB: pagesB[0] ?? null,
      pages: { a: pagesA, b: pagesB },
      outlines,
      omitted: 0,
      laidOn,
    },
  };
}

/** Pairs that stand in another order: the fewest that must be taken out so that all others follow one another. */
function movedPages(toB: readonly number[]): [number, number][] {
  const paired = toB.flatMap((j, i): [number, number][] => (j < 0 ? [] : [[i, j]]));
  const kept = new Set(longestRising(paired.map(([, j]) => j)));
  return paired.filter(([, j]) => !kept.has(j));
}
