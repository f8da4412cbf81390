import { whole } from './wholes.ts';
import type { PictureLayerEntry } from '../../contract/comparison.ts';
import type { Pictures } from '../../model/format.ts';
import { painted, type LayeredPicture } from '../../model/layers.ts';
import type { Picture } from '../../model/picture.ts';
import { orUnreadable, ReadError } from '../../model/problem.ts';
import type { FoundInPair, Kind, Seen } from '../kind.ts';
import { comparePictures, type ComparedPictures } from './compare.ts';
import { THRESHOLD } from './difference/difference-map.ts';
import { packMap } from './difference/packed-map.ts';
import { compareDrawn } from './drawn/compare.ts';
import { compareLayers } from './layers/compare.ts';
import { outlinesOfPictures } from './outlines.ts';
import { comparePages } from './pages.ts';

export const picture: Kind<Pictures> = {
  id: 'picture',
  level: 'pixels',
  compare(a, b) {
    if (a.model.drawnFrom ?? b.model.drawnFrom) return compareDrawn(a, b);
    return a.model.count > 1 || b.model.count > 1 ? byPages(a, b) : firstPages(a, b);
  },
  picture: async ({ model }, page, side) => (await model.page(page, side)).bitmap,
};

/** Page by page; where one cannot be decoded, the first pages alone. */
async function byPages(a: Seen<Pictures>, b: Seen<Pictures>): Promise<FoundInPair> {
  const found = await orUnreadable(comparePages(a.model, b.model));
  if (!(found instanceof ReadError)) return found;
  const first = await firstPages(a, b);
  return { ...first, notes: [...first.notes, `Only the first page was compared. ${found.message}`] };
}

async function firstPages(a: Seen<Pictures>, b: Seen<Pictures>): Promise<FoundInPair> {
  const [pa, pb] = await Promise.all([a.model.page(0), b.model.page(0)]);
  const found = await comparedPixels(pa, pb);
  const damages = [
    ...(pa.damage === undefined ? [] : [`A: ${pa.damage}`]),
    ...(pb.damage === undefined ? [] : [`B: ${pb.damage}`]),
  ];
  return {
    changes: found.changes,
    causes: found.causes,
    unchanged: found.unchanged,
    notes: [...found.notes, ...damages],
    unit: 'px',
    tolerance: 0,
    sideNotes: { a: pa.notes, b: pb.notes },
    outlines: { ...outlinesOfPictures(found, pa.bitmap, pb.bitmap), ...layersOf(pa, pb, found.pairs) },
    map: packMap(found.map),
  };
}

function layersOf(
  a: Picture,
  b: Picture,
  pairs: readonly number[] | undefined,
): Pick<FoundInPair['outlines'], 'layers'> {
  if (!a.layered || !b.layered || !pairs) return {};
  return { layers: { a: layerEntries(a.layered), b: layerEntries(b.layered), pairs: [...pairs] } };
}

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

interface ComparedPixels extends ComparedPictures {
  /** Of two layered pictures: for each layer of A its pair in B, −1 for none. */
  readonly pairs?: readonly number[];
}

/**
 * Two layered pictures layer by layer; where no layer tells why they look different, and all others, as they are seen.
 */
async function comparedPixels(a: Picture, b: Picture): Promise<ComparedPixels> {
  if (!a.layered || !b.layered) return withFlattening(a, b, comparePictures(a, b));
  const byLayers = await orUnreadable(
    compareLayers({ picture: a, layered: a.layered }, { picture: b, layered: b.layered }),
  );
  if (byLayers instanceof ReadError) {
    const found = comparePictures(a, b);
    const note = `The layers could not be compared, so the pictures are compared as they are seen. ${byLayers.message}`;
    return { ...found, notes: [...found.notes, note] };
  }
  const looksTheSame = !byLayers.map.beyond.some((v) => v >= THRESHOLD);
  if (byLayers.changes.length || looksTheSame) return byLayers;
  return { ...comparePictures(a, b), pairs: byLayers.pairs };
}

/** One picture has layers, and the other has none. */
function withFlattening(a: Picture, b: Picture, found: ComparedPictures): ComparedPictures {
  const layered = a.layered ?? b.layered;
  const layers = layered ? painted(layered.layers).length : 0;
  if (layers < 2) return found;
  const code = a.layered ? 'picture-flattened' : 'picture-layered';
  return {
    ...found,
    causes: [{ ...whole('joined', { code, values: { layers } }, 11), parts: layers }, ...found.causes],
  };
}
