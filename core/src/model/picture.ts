/** A decoded picture and what its file says of it. */
import type { Bitmap } from '../raster/bitmap.ts';
import type { LayeredPicture } from './layers.ts';

export interface Picture {
  readonly bitmap: Bitmap;
  /** What programs call the format, in capitals; empty where it is of no file. */
  readonly savedAs: string;
  /** The format keeps pixels only nearly as they were. */
  readonly lossy: boolean;
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
  /** Pages or frames that are looked at one by one; 1 where only the first counts. */
  readonly pages: number;
  readonly pageWord: 'Page' | 'Frame';
  readonly notes: readonly string[];
  /** What is wrong with a picture that could be decoded only in part. */
  readonly damage?: string;
  /** Of a damaged picture: the first row that could not be decoded; undefined where none is known. */
  readonly lostFrom?: number;
  /** What it is made of, where the format keeps that. */
  readonly layered?: LayeredPicture;
}

/** What a file says of its picture, without decoding it. */
export interface PictureFacts extends Omit<Picture, 'bitmap'> {
  readonly width: number;
  readonly height: number;
}

/** Pixels of the largest picture that is looked into. A pair of them takes about 1 GB while it is compared. */
export const MOST_PIXELS = 110_000_000;

/** A bitmap of which no file says anything: drawn, cut out, or decoded by a browser. */
export const plainPicture = (bitmap: Bitmap): Picture => ({
  bitmap,
  savedAs: '',
  lossy: false,
  depth: 8,
  density: undefined,
  profile: undefined,
  colours: '',
  transparent: false,
  pages: 1,
  pageWord: 'Page',
  notes: [],
});

/** What page `k`, from 0, is called. */
export const pageName = ({ pageWord }: Pick<Picture, 'pageWord'>, k: number): string => `${pageWord} ${k + 1}`;
