import { engine } from '../../../model/engines.ts';
import { ReadError } from '../../../model/problem.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import type { Content } from '../../content.ts';
import { svgOf } from './svg.ts';

/** A page of a drawing on white, its longer side `side` pixels. Throws ReadError with a sentence. */
export async function drawnPage({ bytes, format, design }: Content, page: number, side: number): Promise<Bitmap> {
  if (format?.draw) return format.draw(bytes, page, side);
  if (!design?.pages[page]) throw new ReadError(`There is no page ${page + 1} to be drawn.`, undefined, 'missing');
  return (await engine('drawings')).draw(new TextEncoder().encode(svgOf(design, page)), side, bytes.length);
}
