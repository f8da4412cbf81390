/** Draws a page of whatever has one, to be compared with a page or picture of another kind. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { Input } from '../compare-files.ts';
import { svgOf } from '../draw/svg.ts';
import { drawPdfPage } from '../formats/pdf/draw.ts';
import { ReadError } from '../model/problem.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import { pictureFormats } from '../raster/picture.ts';
import { decodePicture } from './pictures.ts';

const TIME = 20_000;

/** True for what has a page that can be drawn, or is a picture. */
export const isDrawable = ({ opened }: Input): boolean =>
  (opened.level === 'parts' &&
    opened.design !== undefined &&
    !opened.design.sequential &&
    opened.design.pages.length > 0) ||
  (opened.format !== undefined && pictureFormats.has(opened.format.id));

/** On white. `side` is the longer side in pixels; pictures are not made larger. Throws ReadError with a sentence. */
export async function drawPage({ bytes, opened }: Input, page: number, side: number): Promise<Bitmap> {
  const format = opened.format?.id ?? '';
  if (pictureFormats.has(format)) return fitted((await decodePicture(bytes, format)).bitmap, side);
  if (format === 'pdf') return drawPdfPage(bytes, page, side);
  if (!opened.design?.pages[page]) throw new ReadError(`There is no page ${page + 1} to be drawn.`);
  // An SVG drawing shows more than its parts: gradients, filters, masks.
  return decoded(await drawSvg(format === 'svg' ? bytes : new TextEncoder().encode(svgOf(opened.design, page)), side));
}

async function fitted({ data, width, height }: Bitmap, side: number): Promise<Bitmap> {
  return decoded(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .flatten({ background: '#ffffff' })
      .resize(side, side, { fit: 'inside', withoutEnlargement: true })
      .png({ compressionLevel: 1 })
      .toBuffer(),
  );
}

async function decoded(png: Uint8Array): Promise<Bitmap> {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

/** In a process of its own, with a limit on time: the drawing library may hang or abort. */
function drawSvg(svg: Uint8Array, side: number): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      ['--max-old-space-size=1024', fileURLToPath(new URL('draw-child.ts', import.meta.url)), 'svg', String(side)],
      { stdio: ['pipe', 'pipe', 'ignore'], env: { NODE_ENV: 'production', PATH: process.env['PATH'] ?? '' } },
    );
    const timer = setTimeout(() => child.kill('SIGKILL'), TIME);
    const pieces: Buffer[] = [];
    child.stdout.on('data', (piece: Buffer) => pieces.push(piece));
    child.stdin.on('error', () => undefined);
    child.on('error', reject);
    child.on('close', (code) => {
      clearTimeout(timer);
      if (code === 0 && pieces.length) resolve(new Uint8Array(Buffer.concat(pieces)));
      else reject(new ReadError('The drawing could not be drawn in the time that Ovrel allows.'));
    });
    child.stdin.end(svg);
  });
}
