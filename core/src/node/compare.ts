/** Compares two files whatever they are: pictures by their pixels, everything else as `compare` does. */
import { compare, ENGINE, sideOf, type Compared, type Input } from '../compare-files.ts';
import { pictureOf, type Picture as Shapes } from '../compare/picture.ts';
import type { CompareOptions } from '../compare/compare.ts';
import { summarise } from '../compare/summary.ts';
import type { Comparison } from '../contract/comparison.ts';
import { ReadError } from '../model/problem.ts';
import { comparePictures, PICTURE_PAGE, type ComparedPictures } from '../raster/compare-pictures.ts';
import { packMap } from '../raster/packed-map.ts';
import { pictureFormats, type Picture } from '../raster/picture.ts';
import { decodePicture } from './pictures.ts';

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
    if (pa.picture && pb.picture) return ofPictures(a, pa.picture, b, pb.picture);
    const { comparison, ...rest } = compare(a, b, options), notes = [...(pa.problem ? [`The older picture could not be looked into. ${pa.problem}`] : []), ...(pb.problem ? [`The newer picture could not be looked into. ${pb.problem}`] : [])];
    return shaped({ ...rest, comparison: { ...comparison, notes: [...notes, ...comparison.notes] } });
  }
  return shaped(compare(a, b, options));
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

function ofPictures(a: Input, pa: Picture, b: Input, pb: Picture): ComparedFiles {
  const { changes, causes, counts, notes, alignment, map } = comparePictures(pa, pb), side = (i: Input, p: Picture): Comparison['a'] => ({ ...sideOf(i), level: 'pixels', notes: [...p.notes] });
  const comparison: Comparison = {
    engine: ENGINE, level: 'pixels', unit: 'px', a: side(a, pa), b: side(b, pb), counts, changes, causes, tolerance: 0, notes: [...notes, ...pa.notes.filter((x) => x.includes('damaged')).map((x) => `A: ${x}`), ...pb.notes.filter((x) => x.includes('damaged')).map((x) => `B: ${x}`)],
    summary: summarise('pixels', changes, counts, causes),
  };
  return { comparison, picture: shapesOf(changes, pa, pb, { alignment, map }), map: packMap(map) };
}

function shapesOf(changes: Comparison['changes'], a: Picture, b: Picture, { alignment, map }: Pick<ComparedPictures, 'alignment' | 'map'>): Shapes {
  const page = (p: Picture): Shapes['pages']['a'][number] => ({ name: PICTURE_PAGE, box: [0, 0, p.bitmap.width, p.bitmap.height] });
  const ring = (box: readonly number[]): { paths: number[][]; closed: boolean[] } => ({ paths: [[box[0] as number, box[1] as number, box[2] as number, box[1] as number, box[2] as number, box[3] as number, box[0] as number, box[3] as number]], closed: [true] });
  return {
    pageA: page(a), pageB: page(b), pages: { a: [page(a)], b: [page(b)] }, omitted: 0,
    outlines: Object.fromEntries(changes.map((c) => [c.id, { ...(c.boxA ? { a: ring(c.boxA) } : {}), ...(c.boxB ? { b: ring(c.boxB) } : {}) }])),
    laid: { matrix: [...alignment.matrix], found: alignment.found, fit: alignment.fit, noise: map.noise, columns: map.columns, rows: map.rows, sizeA: [a.bitmap.width, a.bitmap.height], sizeB: [b.bitmap.width, b.bitmap.height] },
  };
}
