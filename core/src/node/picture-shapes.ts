/** What a viewer needs of two compared pictures: their pages, the outlines of places, and how A is laid over B. */
import type { Picture as Shapes } from '../compare/picture.ts';
import type { Comparison } from '../contract/comparison.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import type { ComparedPictures } from '../raster/compare-pictures.ts';
import { PICTURE_PAGE } from '../raster/places.ts';

export function shapesOf(
  changes: Comparison['changes'],
  a: Bitmap,
  b: Bitmap,
  { alignment, map }: Pick<ComparedPictures, 'alignment' | 'map'>,
): Shapes {
  const page = (p: Bitmap): Shapes['pages']['a'][number] => ({ name: PICTURE_PAGE, box: [0, 0, p.width, p.height] });
  const ring = (box: readonly number[]): { paths: number[][]; closed: boolean[] } => ({
    paths: [
      [
        box[0] as number,
        box[1] as number,
        box[2] as number,
        box[1] as number,
        box[2] as number,
        box[3] as number,
        box[0] as number,
        box[3] as number,
      ],
    ],
    closed: [true],
  });
  return {
    pageA: page(a),
    pageB: page(b),
    pages: { a: [page(a)], b: [page(b)] },
    omitted: 0,
    outlines: Object.fromEntries(
      changes.map((c) => [c.id, { ...(c.boxA ? { a: ring(c.boxA) } : {}), ...(c.boxB ? { b: ring(c.boxB) } : {}) }]),
    ),
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
