/** What a viewer needs of two compared pictures: their pages, the outlines of places, and how A is laid over B. */
import { changeId } from '../../causes/assemble.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import type { ChangeOutlines, Outline } from '../drawing/outlines.ts';
import type { ComparedPictures } from './compare.ts';
import { PICTURE_PAGE } from './places/places.ts';

type Page = ChangeOutlines['pages']['a'][number];

export function outlinesOfPictures(
  { changes, alignment, map }: Pick<ComparedPictures, 'changes' | 'alignment' | 'map'>,
  a: Bitmap,
  b: Bitmap,
): ChangeOutlines {
  const page = ({ width, height }: Bitmap): Page => ({ name: PICTURE_PAGE, box: [0, 0, width, height] });
  const outlines = changes.map(({ boxA, boxB }, k) => {
    const sides = { ...(boxA ? { a: ring(boxA) } : {}), ...(boxB ? { b: ring(boxB) } : {}) };
    return [changeId(k), sides] as const;
  });
  return {
    pageA: page(a),
    pageB: page(b),
    pages: { a: [page(a)], b: [page(b)] },
    omitted: 0,
    outlines: Object.fromEntries(outlines),
    laid: {
      matrix: [...alignment.matrix],
      found: alignment.found,
      fit: alignment.fit,
      noise: map.noise,
      columns: map.columns,
      rows: map.rows,
      sizeA: [a.width, a.height],
      sizeB: [b.width, b.height],
    },
  };
}

const ring = ([x0, y0, x1, y1]: readonly [number, number, number, number]): Outline => ({
  paths: [[x0, y0, x1, y0, x1, y1, x0, y1]],
  closed: [true],
});
