/** What was done from one layered picture to the next. */
import type { LayeredPicture, PictureLayer } from '../../../model/layers.ts';
import type { Step } from '../../kind.ts';
import { lookDifferences } from './aspects.ts';
import { equal, trimmed } from './bitmaps.ts';
import { pairLayers } from './pair.ts';

export async function layerStep(a: LayeredPicture, b: LayeredPicture): Promise<Step> {
  const toB = Int32Array.from(await pairLayers(a, b));
  const toA = new Int32Array(b.layers.length).fill(-1);
  const edited = new Set<number>();
  for (const [i, j] of toB.entries()) {
    if (j < 0) continue;
    toA[j] = i;
    if (await isEdited(a, i, b, j)) edited.add(j);
  }
  return { pairing: { toA, toB, keysTrusted: false, renumbered: false }, edited };
}

/** Whether two layers look otherwise, or hold other pixels: the same ones may be stored in another way. */
async function isEdited(a: LayeredPicture, i: number, b: LayeredPicture, j: number): Promise<boolean> {
  const [one, other] = [a.layers[i] as PictureLayer, b.layers[j] as PictureLayer];
  if (lookDifferences(one, other).length > 0) return true;
  if (!one.box || !other.box) return one.box !== other.box;
  if (one.print === other.print) return String(one.box) !== String(other.box);
  const [p, q] = [trimmed(await a.pixels(i), one.box), trimmed(await b.pixels(j), other.box)];
  return p.x !== q.x || p.y !== q.y || !equal(p, q);
}
