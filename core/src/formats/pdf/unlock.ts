/** Locks documents with a password, and opens them for as long as somebody looks at it. */
import { ReadError } from '../../model/problem.ts';
import { OpenPdf } from './engine.ts';

/**
 * The same document without its lock; undefined where the password is not the right one. Throws ReadError for
 * anything else.
 */
export function unlockPdf(bytes: Uint8Array, password: string): Uint8Array | undefined {
  const pdf = OpenPdf.withPassword(bytes, password);
  return pdf && saved(pdf, () => pdf.engine.EPDF_RemoveEncryption(pdf.handle));
}

/** The same document, locked. Throws ReadError for what is no document. */
export function lockPdf(bytes: Uint8Array, password: string): Uint8Array {
  const pdf = new OpenPdf(bytes);
  return saved(pdf, () => pdf.engine.EPDF_SetEncryption(pdf.handle, password, password, 0));
}

function saved(pdf: OpenPdf, change: () => boolean): Uint8Array {
  try {
    const out = change() ? pdf.saved() : undefined;
    if (!out) throw new ReadError('The document is locked in a way that Ovrel does not know.');
    return out;
  } finally {
    pdf.close();
  }
}
