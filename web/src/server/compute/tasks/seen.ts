import { DRAWN_SIDE, modelOf, open } from '@ovrel/core';
import { encodePng } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** A page as it is compared with one of another kind, as PNG; null where it cannot be drawn. */
export const seen: Task<{ readonly source: Source; readonly page: number }, Uint8Array | null> = ({
  source: { bytes, name },
  page,
}) =>
  orNothing(async () => {
    const pictures = await modelOf(await open(bytes, name), 'picture');
    return encodePng((await pictures.page(page, DRAWN_SIDE)).bitmap);
  });
