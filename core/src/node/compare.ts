/** Compares two files whatever they are: pictures by their pixels, everything else as `compare` does. */
import { compare, ENGINE, sideOf, type Compared, type Input } from '../compare-files.ts';
import { pictureOf, type Picture as Shapes } from '../compare/picture.ts';
import type { CompareOptions } from '../compare/compare.ts';
import { summarise } from '../compare/summary.ts';
import type { Comparison, PictureLayerEntry } from '../contract/comparison.ts';
import { ReadError } from '../model/problem.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import { compareLayers } from '../raster/compare-layers.ts';
import { asItIs, comparePictures, PICTURE_PAGE, placedIn, type ComparedPictures } from '../raster/compare-pictures.ts';
import { THRESHOLD } from '../raster/difference.ts';
import { painted, type LayeredPicture } from '../raster/layers.ts';
import { packMap } from '../raster/packed-map.ts';
import { pictureFormats, type Picture } from '../raster/picture.ts';
import { plural } from '../text/plural.ts';
import { compareDrawn } from './compare-drawn.ts';
import { isDrawable } from './drawn.ts';
import { checkedByPixels } from './pdf-pixels.ts';
import { decodePicture } from './pictures.ts';

export const layerEntries = ({ layers }: LayeredPicture): PictureLayerEntry[] => layers.map(({ name, kind, group, hidden, opacity, blend, box }) => ({ name, kind, group, hidden, opacity, blend, box: box ? [...box] : null }));

export interface ComparedFiles {
  readonly comparison: Comparison;
  readonly picture: Shapes;
  /** Of pictures: the differences of their squares (raster/packed-map.ts). */
  readonly map?: Uint8Array;
}

export const isPicture = ({ opened }: Input): boolean => opened.format !== undefined && pictureFormats.has(opened.format.id);

export async function compareAny(a: Input, b: Input, options: CompareOptions = {}): Promise<ComparedFiles> {
  if (isPicture(a) && isPicture(b)) {
    const [pa, pb] = await Promise.all([decoded(a), decoded(b)]);
    if (pa.picture && pb.picture) {
      const pages = manyPages(pa.picture) || manyPages(pb.picture) ? await unlessUnreadable(ofPages(a, pa.picture, b, pb.picture)) : undefined;
      if (pages !== undefined && typeof pages !== 'string') return pages;
      const first = await ofPictures(a, pa.picture, b, pb.picture);
      return pages === undefined ? first : { ...first, comparison: { ...first.comparison, notes: [...first.comparison.notes, `Only the first page was compared. ${pages}`] } };
    }
    const { comparison, ...rest } = compare(a, b, options), notes = [...(pa.problem ? [`The older picture could not be looked into. ${pa.problem}`] : []), ...(pb.problem ? [`The newer picture could not be looked into. ${pb.problem}`] : [])];
    return shaped({ ...rest, comparison: { ...comparison, notes: [...notes, ...comparison.notes] } });
  }
  if (isDrawable(a) && isDrawable(b) && a.opened.format?.id !== b.opened.format?.id) {
    try {
      const { comparison, found, a: pa, b: pb, pages } = await compareDrawn(a, b);
      return { comparison, picture: { ...shapesOf(comparison.changes, pa, pb, found), drawn: { a: pages[0], b: pages[1] } }, map: packMap(found.map) };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
    }
  }
  const compared = compare(a, b, options);
  return shaped(a.opened.format?.id === 'pdf' && b.opened.format?.id === 'pdf' ? checkedByPixels(a, b, compared) : compared);
}

const shaped = (compared: Compared): ComparedFiles => ({ comparison: compared.comparison, picture: pictureOf(compared) });

async function decoded({ bytes, opened }: Input): Promise<{ picture?: Picture; problem?: string }> {
  try {
    return { picture: await decodePicture(bytes, opened.format?.id ?? '') };
  } catch (error) {
    if (error instanceof ReadError) return { problem: error.message };
    throw error;
  }
}

/** Two layered pictures layer by layer; where no layer tells why they look different, and all others, as they are seen. */
async function comparedPixels(a: Picture, b: Picture): Promise<ComparedPictures & { readonly pairs?: readonly number[] }> {
  if (!a.layered || !b.layered) {
    const found = comparePictures(a, b), one = a.layered ?? b.layered, count = one ? painted(one.layers).length : 0;
    if (!one || count < 2) return found;
    const sentence = a.layered ? `Layers flattened: ${plural(count, 'layer')} are one picture now` : `Layers: what was one picture has ${count.toLocaleString('en')} now`;
    return { ...found, causes: [{ id: 'k0', kind: 'joined', sentence, weight: 11, parts: count, changes: [] }, ...found.causes] };
  }
  const byLayers = await unlessUnreadable(compareLayers({ picture: a, layered: a.layered }, { picture: b, layered: b.layered }));
  if (typeof byLayers === 'string') {
    const found = comparePictures(a, b);
    return { ...found, notes: [...found.notes, `The layers could not be compared, so the pictures are compared as they are seen. ${byLayers}`] };
  }
  if (byLayers.changes.length || !byLayers.map.beyond.some((v) => v >= THRESHOLD)) return byLayers;
  return { ...comparePictures(a, b), pairs: byLayers.pairs };
}

/** What was computed, or the sentence about what could not be read. */
const unlessUnreadable = <T>(work: Promise<T>): Promise<T | string> => work.catch((error: unknown) => {
  if (error instanceof ReadError) return error.message;
  throw error;
});

const manyPages = ({ format, pages }: Picture): boolean => format === 'tiff' && pages > 1;

/** Pages of a picture that are compared; the others only count. */
const MOST_PAGES = 40;

/** Page by page, as they stand. */
async function ofPages(a: Input, firstA: Picture, b: Input, firstB: Picture): Promise<ComparedFiles> {
  const count = (p: Picture): number => (p.format === 'tiff' ? p.pages : 1), [countA, countB] = [count(firstA), count(firstB)], both = Math.min(countA, countB, MOST_PAGES), page = (input: Input, first: Picture, k: number): Promise<Picture> => (k ? decodePicture(input.bytes, first.format, k) : Promise.resolve(first));
  const changes: Comparison['changes'] = [], causes: Omit<Comparison['causes'][number], 'id'>[] = [], notes: string[] = [], pages: Shapes['pages'] = { a: [], b: [] }, outlines: Shapes['outlines'] = {}, laidOn: NonNullable<Shapes['laidOn']> = {};
  for (let k = 0; k < both; k++) {
    const [pa, pb] = [await page(a, firstA, k), await page(b, firstB, k)], name = `Page ${k + 1}`, found = comparePictures(pa, pb), shapes = shapesOf(found.changes, pa.bitmap, pb.bitmap, found), { changes: placed, ids } = placedIn(found.changes, changes.length + 1, (p) => ({ ...p, page: name }), asItIs);
    changes.push(...placed);
    for (const [before, after] of ids) outlines[after] = shapes.outlines[before] ?? {};
    for (const { id: _, ...cause } of found.causes) causes.push({ ...cause, sentence: `${cause.sentence} on “${name}”`, changes: cause.changes.map((id) => ids.get(id) ?? id) });
    for (const [side, bitmap] of [['a', pa.bitmap], ['b', pb.bitmap]] as const) pages[side].push({ name, box: [0, 0, bitmap.width, bitmap.height] });
    if (shapes.laid) laidOn[name] = shapes.laid;
    for (const note of found.notes) if (!notes.includes(note)) notes.push(note);
  }
  for (const [side, from, to, input, first, verb] of [['a', countB, countA, a, firstA, 'removed'], ['b', countA, countB, b, firstB, 'added']] as const) {
    for (let k = from; k < Math.min(to, MOST_PAGES); k++) {
      const { bitmap } = await page(input, first, k), name = `Page ${k + 1}`;
      pages[side].push({ name, box: [0, 0, bitmap.width, bitmap.height] });
      causes.push({ kind: 'page', sentence: `Page “${name}” ${verb}`, weight: 9, parts: 1, changes: [] });
    }
  }
  if (Math.max(countA, countB) > MOST_PAGES) notes.push(`Only the first ${MOST_PAGES} pages were compared.`);
  const sorted = causes.sort((p, q) => q.weight - p.weight).map((c, n) => ({ ...c, id: `k${n + 1}` })), tally = (kind: string): number => changes.filter((c) => c.kind === kind).length, counts = { added: tally('added'), removed: tally('removed'), changed: tally('changed'), moved: tally('moved'), unchanged: 0 };
  const side = (i: Input, p: Picture): Comparison['a'] => ({ ...sideOf(i), level: 'pixels', notes: [...p.notes] });
  const comparison: Comparison = { engine: ENGINE, level: 'pixels', unit: 'px', a: side(a, firstA), b: side(b, firstB), counts, changes, causes: sorted, tolerance: 0, notes, summary: summarise('pixels', changes, counts, sorted) };
  return { comparison, picture: { pageA: pages.a[0] ?? null, pageB: pages.b[0] ?? null, pages, outlines, omitted: 0, laidOn } };
}

async function ofPictures(a: Input, pa: Picture, b: Input, pb: Picture): Promise<ComparedFiles> {
  const { changes, causes, counts, notes, alignment, map, pairs } = await comparedPixels(pa, pb), side = (i: Input, p: Picture): Comparison['a'] => ({ ...sideOf(i), level: 'pixels', notes: [...p.notes] });
  const comparison: Comparison = {
    engine: ENGINE, level: 'pixels', unit: 'px', a: side(a, pa), b: side(b, pb), counts, changes, causes, tolerance: 0, notes: [...notes, ...pa.notes.filter((x) => x.includes('damaged')).map((x) => `A: ${x}`), ...pb.notes.filter((x) => x.includes('damaged')).map((x) => `B: ${x}`)],
    summary: summarise('pixels', changes, counts, causes),
  };
  return { comparison, picture: { ...shapesOf(changes, pa.bitmap, pb.bitmap, { alignment, map }), ...(pa.layered && pb.layered && pairs ? { layers: { a: layerEntries(pa.layered), b: layerEntries(pb.layered), pairs: [...pairs] } } : {}) }, map: packMap(map) };
}

function shapesOf(changes: Comparison['changes'], a: Bitmap, b: Bitmap, { alignment, map }: Pick<ComparedPictures, 'alignment' | 'map'>): Shapes {
  const page = (p: Bitmap): Shapes['pages']['a'][number] => ({ name: PICTURE_PAGE, box: [0, 0, p.width, p.height] });
  const ring = (box: readonly number[]): { paths: number[][]; closed: boolean[] } => ({ paths: [[box[0] as number, box[1] as number, box[2] as number, box[1] as number, box[2] as number, box[3] as number, box[0] as number, box[3] as number]], closed: [true] });
  return {
    pageA: page(a), pageB: page(b), pages: { a: [page(a)], b: [page(b)] }, omitted: 0,
    outlines: Object.fromEntries(changes.map((c) => [c.id, { ...(c.boxA ? { a: ring(c.boxA) } : {}), ...(c.boxB ? { b: ring(c.boxB) } : {}) }])),
    laid: { matrix: [...alignment.matrix], found: alignment.found, fit: alignment.fit, noise: map.noise, columns: map.columns, rows: map.rows, sizeA: [a.width, a.height], sizeB: [b.width, b.height] },
  };
}
