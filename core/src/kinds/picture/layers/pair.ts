/**
 * Pairs the layers of two pictures with the engine that pairs parts; what it leaves is paired by content, name and
 * pixels.
 */
import { GeometryBuilder } from '../../../geometry/builder.ts';
import { identity } from '../../../geometry/matrix.ts';
import { plainDesign, plainPart, type Design, type Part } from '../../../model/design.ts';
import { words, type Bitmap } from '../../../raster/bitmap.ts';
import { pathOf, type LayeredPicture, type PictureLayer } from '../../../model/layers.ts';
import { matchParts } from '../../../match/parts.ts';
import { PICTURE_PAGE } from '../places/places.ts';

/** Layers as parts: what they are called is their key, unless the file gives them one; what they hold is a property. */
export function layersAsParts({ layers, width, height }: LayeredPicture, keyed = false): Design {
  const geometry = new GeometryBuilder(4 * layers.length + 8);
  const taken = new Set<string>();
  geometry.setMatrix(identity);
  const parts = layers.map((layer, k): Part => {
    const first = geometry.subpathCount;
    const { box } = layer;
    const path = pathOf(layers, k).join('\n');
    if (box) {
      geometry.moveTo(box[0], box[1]);
      geometry.lineTo(box[2], box[1]);
      geometry.lineTo(box[2], box[3]);
      geometry.lineTo(box[0], box[3]);
      geometry.close();
    }
    let key = keyed ? layer.key : path;
    for (let n = 2; key !== undefined && taken.has(key); n++) key = `${path}\n${n}`;
    if (key !== undefined) taken.add(key);
    return plainPart({
      key,
      kind: layer.kind,
      name: layer.name,
      firstSubpath: first,
      subpaths: geometry.subpathCount - first,
      box,
      props: { content: layer.print, name: layer.name },
    });
  });
  return plainDesign('layers', { name: PICTURE_PAGE, box: [0, 0, width, height] }, parts, geometry.finish());
}

/** Share of the pixels that are equal above which two layers are one, edited. */
const ALIKE = 0.85;
/** Layers left over whose pixels are compared with one another, on each side. */
const MOST_TRIED = 8;

/** For each layer of A its pair in B, −1 for none. */
export async function pairLayers(a: LayeredPicture, b: LayeredPicture): Promise<number[]> {
  const keyed = [a, b].every((p) => p.layers.length > 0 && p.layers.every((l) => l.key !== undefined));
  const { toB } = matchParts(layersAsParts(a, keyed), layersAsParts(b, keyed), 0.5);
  const pairs = [...toB];
  const one = (i: number): PictureLayer => a.layers[i] as PictureLayer;
  const other = (j: number): PictureLayer => b.layers[j] as PictureLayer;
  const named = (p: PictureLayer, q: PictureLayer): boolean => p.name === q.name || (keyed && p.key === q.key);
  const same = (p: PictureLayer, q: PictureLayer): boolean => p.print !== '' && p.print === q.print;
  // To lie at one place is no sign: most layers are as large as the canvas.
  pairs.forEach((j, i) => {
    if (j >= 0 && (one(i).kind !== other(j).kind || !(named(one(i), other(j)) || same(one(i), other(j)))))
      pairs[i] = -1;
  });
  const free = (): { left: number[]; come: number[] } => ({
    left: pairs.flatMap((j, i) => (j < 0 ? [i] : [])),
    come: b.layers.flatMap((_, j) => (pairs.includes(j) ? [] : [j])),
  });
  for (const test of [same, named]) {
    const { left, come } = free();
    for (const i of left) {
      const j = come.find((k) => !pairs.includes(k) && one(i).kind === other(k).kind && test(one(i), other(k)));
      if (j !== undefined) pairs[i] = j;
    }
  }
  const { left, come } = free();
  const drawn = (p: LayeredPicture, list: number[]): number[] =>
    list.filter((k) => p.layers[k]?.box).slice(0, MOST_TRIED);
  for (const i of drawn(a, left)) {
    for (const j of drawn(b, come)) {
      if (pairs.includes(j) || String(one(i).box) !== String(other(j).box) || pairs[i] !== -1) continue;
      if (shareEqual(await a.pixels(i), await b.pixels(j)) >= ALIKE) pairs[i] = j;
    }
  }
  return pairs;
}

/** Of the pixels that one of them paints. */
function shareEqual(a: Bitmap, b: Bitmap): number {
  const p = words(a);
  const q = words(b);
  let painted = 0;
  let equal = 0;
  for (let k = 0; k < p.length; k++) {
    if (!a.data[4 * k + 3] && !b.data[4 * k + 3]) continue;
    painted++;
    if (p[k] === q[k]) equal++;
  }
  return painted ? equal / painted : 0;
}
