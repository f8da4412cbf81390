/** Pages of a drawing, seen as pictures. */
import type { Pictures } from '../../../model/format.ts';
import { plainPicture } from '../../../model/picture.ts';
import type { Content } from '../../content.ts';
import { drawnPage } from '../../drawing/draw/page.ts';

/** Longer side of what is drawn, in pixels. */
export const DRAWN_SIDE = 2000;

export const drawnPages = (content: Content): Pictures => ({
  count: content.design?.pages.length ?? 0,
  page: async (k, side = DRAWN_SIDE) => plainPicture(await drawnPage(content, k, side)),
  sketch: () => Promise.resolve(undefined),
  ...(content.design ? { drawnFrom: content.design } : {}),
});
