import { Gunzip } from 'fflate';
import { ReadError } from '../../model/problem.ts';

/** Compressed bytes that are looked at between two looks at what came of them. */
const STEP = 65_536;

/** What was compressed by gzip (RFC 1952). Throws ReadError where that is more than `most` bytes, or damaged. */
export function inflated(bytes: Uint8Array, most: number): Uint8Array {
  const pieces: Uint8Array[] = [];
  let size = 0;
  let isWhole = false;
  const gunzip = new Gunzip((piece, isLast) => {
    pieces.push(piece);
    size += piece.length;
    isWhole ||= isLast;
  });
  try {
    for (let at = 0; at < bytes.length && size <= most; at += STEP)
      gunzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
  } catch {
    throw new ReadError('What is compressed in the file is damaged.', undefined, 'damaged');
  }
  if (size > most) throw new ReadError('The file holds more than Ovrel reads part by part.', undefined, 'too-large');
  if (!isWhole)
    throw new ReadError('The file is cut off: what is compressed in it has no end.', bytes.length, 'damaged');
  const whole = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
