/** The only part of the core that touches files. */
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { open } from '../formats/open.ts';
import { needsPdf, preparePdf } from './pdf.ts';
import type { Input } from '../compare-files.ts';
import { defaultLimits } from '../model/limits.ts';
import { ReadError } from '../model/problem.ts';

/** Reads a file from disk. Throws ReadError with a sentence where it is missing, a folder, or too large. */
export async function openFile(path: string): Promise<Input> {
  const info = await stat(path).catch((error: NodeJS.ErrnoException) => {
    throw new ReadError(
      error.code === 'ENOENT'
        ? `There is no file ${path}.`
        : `${path} could not be opened (${error.code ?? error.message}).`,
    );
  });
  if (info.isDirectory()) throw new ReadError(`${path} is a folder, not a file.`);
  if (info.size > 4 * defaultLimits.bytes)
    throw new ReadError(
      `${path} is larger than ${(4 * defaultLimits.bytes) / 1024 / 1024} MB, which is more than Ovrel looks into.`,
    );
  const bytes = await readFile(path).catch((error: NodeJS.ErrnoException) => {
    throw new ReadError(`${path} could not be read (${error.code ?? error.message}).`);
  });
  if (needsPdf(bytes)) await preparePdf();
  return { name: basename(path), bytes, opened: open(bytes, path) };
}

export { DRAWN_SIDE } from './compare-drawn.ts';
export { drawPage } from './drawn.ts';
export { compareAny, isPicture, layerEntries, type ComparedFiles } from './compare.ts';
export { decodePicture, encodePng, hatched, lookAtPicture, profileName, type PictureFacts } from './pictures.ts';
export { asOra, makeOra, openLayered, type NewLayer, type OpenLayered } from './layered.ts';
export { picturesCropped, type PictureCrop } from './picture-crops.ts';
export { pageName, pagesOf } from '../raster/picture.ts';
export { needsPdf, preparePdf } from './pdf.ts';
export { lockPdf, unlockPdf } from '../formats/pdf/unlock.ts';
export { drawPdfPage } from '../formats/pdf/draw.ts';
