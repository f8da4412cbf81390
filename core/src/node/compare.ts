/** Compares two files whatever they are: pictures by their pixels, everything else as `compare` does. */
import { compare, ENGINE, sideOf, type Compared, type Input } from '../compare-files.ts';
import { pictureOf, type Picture as Shapes } from '../compare/picture.ts';
import type { CompareOptions } from '../compare/compare.ts';
import { summarise } from '../compare/summary.ts';
import type { Comparison, PictureLayerEntry } from '../contract/comparison.ts';
import { ReadError } from '../model/problem.ts';
import { compareLayers } from '../raster/compare-layers.ts';
import { comparePictures, type ComparedPictures } from '../raster/compare-pictures.ts';
import { THRESHOLD } from '../raster/difference.ts';
import { painted, type LayeredPicture } from '../raster/layers.ts';
import { packMap } from '../raster/packed-map.ts';
import { pagesOf, pictureFormats, type Picture } from '../raster/picture.ts';
import { plural } from '../text/plural.ts';
import { compareDrawn } from './compare-drawn.ts';
import { isDrawable } from './drawn.ts';
import { checkedByPixels } from './pdf-pixels.ts';
import { comparePages } from './picture-pages.ts';
import { shapesOf } from './picture-shapes.ts';
import { decodePicture } from './pictures.ts';

export const layerEntries = ({ layers }: LayeredPicture): PictureLayerEntry[] =>
  layers.map(({ name, kind, group, hidden, opacity, blend, box }) => ({
    name,
    kind,
    group,
    hidden,
    opacity,
    blend,
    box: box ? [...box] : null,
  }));

export interface ComparedFiles {
  readonly comparison: Comparison;
  readonly picture: Shapes;
  /** Of pictures: the differences of their squares (raster/packed-map.ts). */
  readonly map?: Uint8Array;
}

export const isPicture = ({ opened }: Input): boolean =>
  opened.format !== undefined && pictureFormats.has(opened.format.id);

export async function compareAny(a: Input, b: Input, options: CompareOptions = {}): Promise<ComparedFiles> {
  if (isPicture(a) && isPicture(b)) {
    const [pa, pb] = await Promise.all([decoded(a), decoded(b)]);
    if (pa.picture && pb.picture) {
      const pages =
        pagesOf(pa.picture) > 1 || pagesOf(pb.picture) > 1
          ? await unlessUnreadable(comparePages(a, pa.picture, b, pb.picture))
          : undefined;
      if (pages !== undefined && typeof pages !== 'string') return pages;
      const first = await ofPictures(a, pa.picture, b, pb.picture);
      return pages === undefined
        ? first
        : {
            ...first,
            comparison: {
              ...first.comparison,
              notes: [...first.comparison.notes, `Only the first page was compared. ${pages}`],
            },
          };
    }
    const { comparison, ...rest } = compare(a, b, options);
    const notes = [
      ...(pa.problem ? [`The older picture could not be looked into. ${pa.problem}`] : []),
      ...(pb.problem ? [`The newer picture could not be looked into. ${pb.problem}`] : []),
    ];
    return shaped({ ...rest, comparison: { ...comparison, notes: [...notes, ...comparison.notes] } });
  }
  if (isDrawable(a) && isDrawable(b) && a.opened.format?.id !== b.opened.format?.id) {
    try {
      const { comparison, found, a: pa, b: pb, pages } = await compareDrawn(a, b);
      return {
        comparison,
        picture: { ...shapesOf(comparison.changes, pa, pb, found), drawn: { a: pages[0], b: pages[1] } },
        map: packMap(found.map),
      };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
    }
  }
  const compared = compare(a, b, options);
  return shaped(
    a.opened.format?.id === 'pdf' && b.opened.format?.id === 'pdf' ? checkedByPixels(a, b, compared) : compared,
  );
}

const shaped = (compared: Compared): ComparedFiles => ({
  comparison: compared.comparison,
  picture: pictureOf(compared),
});

async function decoded({ bytes, opened }: Input): Promise<{ picture?: Picture; problem?: string }> {
  try {
    return { picture: await decodePicture(bytes, opened.format?.id ?? '') };
  } catch (error) {
    if (error instanceof ReadError) return { problem: error.message };
    throw error;
  }
}

/** Two layered pictures layer by layer; where no layer tells why they look different, and all others, as they are seen. */
async function comparedPixels(
  a: Picture,
  b: Picture,
): Promise<ComparedPictures & { readonly pairs?: readonly number[] }> {
  if (!a.layered || !b.layered) {
    const found = comparePictures(a, b);
    const one = a.layered ?? b.layered;
    const count = one ? painted(one.layers).length : 0;
    if (!one || count < 2) return found;
    const sentence = a.layered
      ? `Layers flattened: ${plural(count, 'layer')} are one picture now`
      : `Layers: what was one picture has ${count.toLocaleString('en')} now`;
    return {
      ...found,
      causes: [{ id: 'k0', kind: 'joined', sentence, weight: 11, parts: count, changes: [] }, ...found.causes],
    };
  }
  const byLayers = await unlessUnreadable(
    compareLayers({ picture: a, layered: a.layered }, { picture: b, layered: b.layered }),
  );
  if (typeof byLayers === 'string') {
    const found = comparePictures(a, b);
    return {
      ...found,
      notes: [
        ...found.notes,
        `The layers could not be compared, so the pictures are compared as they are seen. ${byLayers}`,
      ],
    };
  }
  if (byLayers.changes.length || !byLayers.map.beyond.some((v) => v >= THRESHOLD)) return byLayers;
  return { ...comparePictures(a, b), pairs: byLayers.pairs };
}

/** What was computed, or the sentence about what could not be read. */
const unlessUnreadable = <T>(work: Promise<T>): Promise<T | string> =>
  work.catch((error: unknown) => {
    if (error instanceof ReadError) return error.message;
    throw error;
  });

async function ofPictures(a: Input, pa: Picture, b: Input, pb: Picture): Promise<ComparedFiles> {
  const { changes, causes, counts, notes, alignment, map, pairs } = await comparedPixels(pa, pb);
  const side = (i: Input, p: Picture): Comparison['a'] => ({ ...sideOf(i), level: 'pixels', notes: [...p.notes] });
  const comparison: Comparison = {
    engine: ENGINE,
    level: 'pixels',
    unit: 'px',
    a: side(a, pa),
    b: side(b, pb),
    counts,
    changes,
    causes,
    tolerance: 0,
    notes: [
      ...notes,
      ...pa.notes.filter((x) => x.includes('damaged')).map((x) => `A: ${x}`),
      ...pb.notes.filter((x) => x.includes('damaged')).map((x) => `B: ${x}`),
    ],
    summary: summarise('pixels', changes, counts, causes),
  };
  return {
    comparison,
    picture: {
      ...shapesOf(changes, pa.bitmap, pb.bitmap, { alignment, map }),
      ...(pa.layered && pb.layered && pairs
        ? { layers: { a: layerEntries(pa.layered), b: layerEntries(pb.layered), pairs: [...pairs] } }
        : {}),
    },
    map: packMap(map),
  };
}
