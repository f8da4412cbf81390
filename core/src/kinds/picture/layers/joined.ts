/** Layers that were put together: what one shows is what several others showed before. */
import type { Box } from '../../../geometry/box.ts';
import { painted, unseen, type LayeredPicture, type PictureLayer } from '../../../model/layers.ts';
import { alike, laidPlainly } from './bitmaps.ts';

/** Layers of `to` that look as several layers of `from` do together, which are not there any more. */
export async function joined({
  from,
  to,
  there,
  back,
}: {
  from: LayeredPicture;
  to: LayeredPicture;
  there: (k: number) => number;
  back: (k: number) => number;
}): Promise<{ one: number; many: number[] }[]> {
  const out: { one: number; many: number[] }[] = [];
  const gone = new Set(painted(from.layers).filter((k) => there(k) < 0 && !unseen(from.layers, k)));
  for (const j of painted(to.layers)) {
    const i = back(j);
    const other = to.layers[j] as PictureLayer;
    if (!gone.size || (i >= 0 && (from.layers[i]?.print === other.print || unseen(from.layers, i)))) continue;
    const many = [...gone, ...(i >= 0 ? [i] : [])].sort((p, q) => p - q);
    if (
      many.length < 2 ||
      !alike(
        await from.compose(new Set(many)),
        laidPlainly(await to.pixels(j), other.box as Box, [0, 0, to.width, to.height], undefined),
      )
    )
      continue;
    out.push({ one: j, many });
    for (const k of many) gone.delete(k);
  }
  return out;
}
