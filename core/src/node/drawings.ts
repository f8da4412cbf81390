/** Draws SVG in a process of its own, with a limit on time: the drawing library may hang or abort. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { Exhausted, ReadError } from '../model/problem.ts';
import type { Bitmap } from '../raster/bitmap.ts';

/**
 * Milliseconds of computing: for any drawing, for each byte of it, and at most. Few bytes that take long are made to. How
 * much else the machine has to do is another matter: so many times as long may pass.
 */
const TIME = 5000;
const TIME_A_BYTE = 0.01;
const MOST_TIME = 20_000;
const PATIENCE = 12;
const MEMORY_MB = 1024;

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
export function drawnBy(
  what: 'vector' | 'picture',
  bytes: Uint8Array,
  side: number,
  milliseconds: number,
): Promise<Buffer | undefined> {
  return new Promise((resolve, reject) => {
    const script = fileURLToPath(new URL('draw-child.ts', import.meta.url));
    const draw = [process.execPath, `--max-old-space-size=${MEMORY_MB}`, script, what, String(side)];
    const child = spawn(
      '/bin/sh',
      ['-c', 'ulimit -t "$0"; exec "$@"', String(Math.ceil(milliseconds / 1000)), ...draw],
      {
        stdio: ['pipe', 'pipe', 'ignore'],
        env: { NODE_ENV: 'production', PATH: process.env['PATH'] ?? '' },
      },
    );
    let isLate = false;
    const timer = setTimeout(() => {
      isLate = true;
      child.kill('SIGKILL');
    }, PATIENCE * milliseconds);
    const pieces: Buffer[] = [];
    child.stdout.on('data', (piece: Buffer) => pieces.push(piece));
    child.stdin.on('error', () => undefined);
    child.on('error', () => resolve(undefined));
    child.on('close', (code) => {
      clearTimeout(timer);
      if (isLate) reject(new Exhausted('The drawing could not be drawn just now: the machine has too much to do.'));
      else resolve(code === 0 && pieces.length ? Buffer.concat(pieces) : undefined);
    });
    child.stdin.end(bytes);
  });
}
