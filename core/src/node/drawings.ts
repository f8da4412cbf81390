/** Draws SVG in a process of its own, with a limit on time: the drawing library may hang or abort. */
import sharp from 'sharp';
import { ReadError } from '../model/problem.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import { answerOfChild } from './child.ts';

/** Milliseconds of computing: for any drawing, for each byte of it, and at most. Few bytes that take long are made to. */
const TIME = 5000;
const TIME_A_BYTE = 0.01;
const MOST_TIME = 20_000;

/**
 * On white; `side` is the longer side in pixels. `fileSize` is that of the file it was made of, in bytes. Throws
 * ReadError with a sentence.
 */
export async function drawSvg(svg: Uint8Array, side: number, fileSize = svg.length): Promise<Bitmap> {
  const png = await drawnBy('vector', svg, side, Math.min(MOST_TIME, TIME + TIME_A_BYTE * fileSize));
  if (!png)
    throw new ReadError('The drawing could not be drawn in the time that Ovrel allows.', undefined, 'too-large');
  return bitmapOf(png);
}

export async function fitted({ data, width, height }: Bitmap, side: number): Promise<Bitmap> {
  return bitmapOf(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .flatten({ background: '#ffffff' })
      .resize(side, side, { fit: 'inside', withoutEnlargement: true })
      .png({ compressionLevel: 1 })
      .toBuffer(),
  );
}

async function bitmapOf(png: Uint8Array): Promise<Bitmap> {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

/**
 * PNG of an SVG drawing or of a picture, its longer side `side` pixels; undefined where it took more computing than
 * `milliseconds`. Throws Exhausted where the machine was too busy to say.
 */
export const drawnBy = (
  what: 'vector' | 'picture',
  input: Uint8Array,
  side: number,
  milliseconds: number,
): Promise<Buffer | undefined> =>
  answerOfChild({
    script: 'draw-child.ts',
    words: [what, String(side)],
    input,
    milliseconds,
    busy: 'The drawing could not be drawn just now: the machine has too much to do.',
  });
