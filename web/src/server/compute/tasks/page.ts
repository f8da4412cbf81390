import { modelOf, open, type Box } from '@ovrel/core';
import { encodePng, hatched } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

interface Input {
  readonly source: Source;
  readonly page: number;
  /** Longer side of what is drawn, in pixels; pictures keep their own size. */
  readonly side: number;
  readonly box?: Box;
}

/** A picture, or a page of a document or a part of it, as PNG; null where it cannot be drawn. */
export const page: Task<Input, Uint8Array | null> = ({ source: { bytes, name }, page: index, side, box }) =>
  orNothing(async () => {
    const content = await open(bytes, name);
    if (content.format?.draw) return encodePng(await content.format.draw(bytes, index, side, box));
    return encodePng(hatched(await (await modelOf(content, 'picture')).page(index)));
  });
