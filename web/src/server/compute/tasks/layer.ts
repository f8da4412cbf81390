import { open } from '@ovrel/core';
import { encodePng } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** One layer on its canvas, as PNG; null where there is no such layer. */
export const layer: Task<{ readonly source: Source; readonly layer: number }, Uint8Array | null> = ({
  source: { bytes, name },
  layer: index,
}) =>
  orNothing(async () => {
    const { format } = await open(bytes, name);
    const picture = await format?.layers?.(bytes);
    if (!picture?.layers[index]) return null;
    const inside = new Set([index]);
    // Of a group, all that it holds and does not hide.
    picture.layers.forEach((l, k) => {
      if (inside.has(l.group) && !l.hidden) inside.add(k);
    });
    return encodePng(await picture.compose(inside));
  });
