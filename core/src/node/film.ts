/** Several pictures as one that moves: each for a while, what changed since the one before lightly marked. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import type { FilmForm } from '../contract/film.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import { marked } from '../raster/marked.ts';

export interface FilmFrame {
  readonly png: Uint8Array;
  /** Beneath the picture. */
  readonly label: string;
}

export interface FilmOptions {
  readonly form: FilmForm;
  /** Milliseconds that each picture is shown. */
  readonly pace: number;
  readonly marks: boolean;
  /** Longest side of a picture, in pixels. */
  readonly side: number;
}

/** The colour of marks: that of the interface. */
const MARK = [111, 45, 98] as const;
/** Height of the line of words, in pixels. */
const LABEL = 28;
/** The last picture is shown so many times as long. */
const LAST = 3;

/** Frames of different sizes stand at the top left of one sheet that holds them all. Throws for no frame at all. */
export async function makeFilm(frames: readonly FilmFrame[], options: FilmOptions): Promise<Buffer> {
  if (frames.length === 0) throw new RangeError('A film needs a picture.');
  const pictures = await Promise.all(frames.map(({ png }) => decoded(png, options.side)));
  const width = Math.max(...pictures.map((picture) => picture.width));
  const height = Math.max(...pictures.map((picture) => picture.height));
  const sheets = pictures.map((picture) => onSheet(picture, width, height));
  const shown: Buffer[] = [];
  for (const [k, sheet] of sheets.entries()) {
    const before = sheets[k - 1];
    const picture = before && options.marks ? marked(before, sheet, MARK) : sheet;
    shown.push(await labelled(picture, frames[k]?.label ?? ''));
  }
  const delay = shown.map((_, k) => (k === shown.length - 1 ? options.pace * LAST : options.pace));
  const [only] = shown;
  const film = shown.length === 1 ? sharp(only) : sharp(shown, { join: { animated: true } });
  return film.toFormat(options.form, { delay, loop: 0 }).toBuffer();
}

async function decoded(png: Uint8Array, side: number): Promise<Bitmap> {
  const { data, info } = await sharp(png)
    .flatten({ background: '#ffffff' })
    .resize(side, side, { fit: 'inside', withoutEnlargement: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

function onSheet(picture: Bitmap, width: number, height: number): Bitmap {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < picture.height; y++)
    data.set(picture.data.subarray(4 * y * picture.width, 4 * (y + 1) * picture.width), 4 * y * width);
  return { width, height, data };
}

async function labelled({ width, height, data }: Bitmap, label: string): Promise<Buffer> {
  const words = await sharp({
    text: {
      text: escaped(label),
      font: 'DejaVu Sans',
      fontfile: fontFile(),
      width: Math.max(1, width - 16),
      height: LABEL - 10,
      rgba: true,
    },
  })
    .png()
    .toBuffer()
    .catch(() => undefined);
  return sharp(Buffer.from(data.buffer, data.byteOffset, data.byteLength), { raw: { width, height, channels: 4 } })
    .extend({ bottom: LABEL, background: '#ffffff' })
    .composite(words ? [{ input: words, left: 8, top: height + 5 }] : [])
    .png({ compressionLevel: 1 })
    .toBuffer();
}

/** A machine may have no fonts of its own. */
const fontFile = (): string =>
  join(dirname(createRequire(import.meta.url).resolve('dejavu-fonts-ttf/package.json')), 'ttf', 'DejaVuSans.ttf');

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
