import { MOST_PIXELS } from './picture.ts';
import { ReadError } from './problem.ts';

/** A picture as it is stored, sample by sample: what of it can be put into another without loss. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  /** Bits of a pixel; rows begin at whole bytes. */
  readonly bits: number;
  /** Bytes of a row. */
  readonly stride: number;
  readonly rows: Uint8Array;
  /** Equal where numbers mean the same colours: kind and number of channels, palette, profile. */
  readonly meaning: string;
}

/** Throws ReadError for more pixels than are looked into: few bytes can claim any number. */
export function refuseTooManyPixels(width: number, height: number): void {
  if (width * height <= MOST_PIXELS) return;
  const sentence = `The picture has more than the ${MOST_PIXELS / 1e6} megapixels that Ovrel looks into.`;
  throw new ReadError(sentence, undefined, 'too-large');
}

/** How pictures of a format are taken apart and written. Both throw ReadError with a sentence. */
export interface RasterFormat {
  read(bytes: Uint8Array): Raster;
  /** The file with other rows of the same picture; all that it says beside stays. */
  write(bytes: Uint8Array, rows: Uint8Array): Uint8Array;
}
