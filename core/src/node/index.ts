/** The only part of the core that touches files. */
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import './engines.ts';
import { pdf } from '../formats/pdf/card.ts';
import { lockPdf } from '../formats/pdf/unlock.ts';
import { open, type Content } from '../kinds/content.ts';
import { defaultLimits } from '../model/limits.ts';
import { ReadError } from '../model/problem.ts';

/** Files larger than this are not opened, in bytes. */
const MOST = 4 * defaultLimits.bytes;

/** Reads standard input as a file without a name. Throws ReadError where it is too large. */
export async function openInput(input: AsyncIterable<Uint8Array>): Promise<Content> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of input) {
    size += piece.length;
    if (size > MOST) throw tooLarge('Standard input');
    pieces.push(piece);
  }
  return open(Uint8Array.from(Buffer.concat(pieces)), 'standard input');
}

const tooLarge = (what: string): ReadError =>
  new ReadError(
    `${what} is larger than ${MOST / 1024 / 1024} MB, which is more than Ovrel looks into.`,
    undefined,
    'too-large',
  );

/** Reads a file from disk. Throws ReadError with a sentence where it is missing, a folder, or too large. */
export async function openFile(path: string): Promise<Content> {
  const info = await stat(path).catch((error: NodeJS.ErrnoException) => {
    const absent = error.code === 'ENOENT';
    throw new ReadError(
      absent ? `There is no file ${path}.` : `${path} could not be opened (${error.code ?? error.message}).`,
      undefined,
      'missing',
    );
  });
  if (info.isDirectory()) throw new ReadError(`${path} is a folder, not a file.`, undefined, 'unsupported');
  if (info.size > MOST) throw tooLarge(path);
  const bytes = await readFile(path).catch((error: NodeJS.ErrnoException) => {
    throw new ReadError(`${path} could not be read (${error.code ?? error.message}).`, undefined, 'missing');
  });
  return open(bytes, basename(path));
}

export { encodePng, hatched } from './pictures.ts';
export { asOra, makeOra, type NewLayer } from './layered.ts';
export { makeFilm, type FilmFrame, type FilmOptions } from './film.ts';
export { picturesCropped, type PictureCrop } from './picture-crops.ts';
export { drawnBy } from './drawings.ts';
/** The same document, locked with a password. Throws ReadError for what is no document. */
export async function lockedPdf(bytes: Uint8Array, password: string): Promise<Uint8Array> {
  await pdf.load();
  return lockPdf(bytes, password);
}
