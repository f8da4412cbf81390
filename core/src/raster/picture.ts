/** A decoded picture and what its file says of it. */
import type { Bitmap } from './bitmap.ts';
import type { LayeredPicture } from './layers.ts';

export interface Picture {
  readonly bitmap: Bitmap;
  /** Id of the format: png, jpeg … */
  readonly format: string;
  /** Bits a channel in the file; comparing is done with 8. */
  readonly depth: number;
  /** Pixels an inch; undefined where the file does not say. */
  readonly density: number | undefined;
  /** Name of the colour profile; undefined for none. */
  readonly profile: string | undefined;
  /** Colour model of the file: srgb, b-w, cmyk … */
  readonly colours: string;
  readonly transparent: boolean;
  /** Its colours are numbers in a list of at most 256. */
  readonly palette?: boolean;
  /** Pages or frames in the file. */
  readonly pages: number;
  readonly notes: readonly string[];
  /** Of a damaged picture: the first row that could not be decoded; undefined where none is known. */
  readonly lostFrom?: number;
  /** What it is made of, where the format keeps that. */
  readonly layered?: LayeredPicture;
}

/** Pixels of the largest picture that is looked into. A pair of them takes about 1 GB while it is compared. */
export const MOST_PIXELS = 110_000_000;

/** Ids of the formats that are compared by pixels. */
export const pictureFormats: ReadonlySet<string> = new Set([
  'png',
  'jpeg',
  'gif',
  'webp',
  'avif',
  'tiff',
  'ora',
  'psd',
]);

/** Those that are made of layers. */
export const layeredFormats: ReadonlySet<string> = new Set(['ora', 'psd']);

/** Those that may hold several pages, or frames of a moving picture. */
const paged: ReadonlySet<string> = new Set(['tiff', 'gif', 'webp']);

/** Pages or frames that are looked at one by one; 1 where only the first counts. */
export const pagesOf = ({ format, pages }: Pick<Picture, 'format' | 'pages'>): number =>
  paged.has(format) ? pages : 1;

/** What page `k`, from 0, is called. */
export const pageName = (format: string, k: number): string => `${format === 'tiff' ? 'Page' : 'Frame'} ${k + 1}`;
