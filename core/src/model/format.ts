import type { Box } from '../geometry/box.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import type { Reference } from '../references/reference.ts';
import type { Card, KindId } from './card.ts';
import type { Design, Page, Part } from './design.ts';
import type { LayeredPicture } from './layers.ts';
import type { Limits } from './limits.ts';
import type { Picture, PictureFacts } from './picture.ts';
import type { RasterFormat } from './raster.ts';
import type { Solid } from './solid.ts';
import type { Source } from './source.ts';
import type { Workbook } from './workbook.ts';
import type { Written } from './written.ts';

/** Pages that are looked at as pixels: of a picture's file, or as they are drawn. */
export interface Pictures {
  readonly count: number;
  /** Page `k`, from 0; with `side`, on white and no larger than that. Throws ReadError with a sentence. */
  page(k: number, side?: number): Promise<Picture>;
  /**
   * Lightness of a page, from 0, on a square of `side` × `side`, whatever its shape; undefined where it cannot be
   * decoded.
   */
  sketch(k: number, side: number): Promise<Uint8Array | undefined>;
  /** What the pages are drawn from; undefined for pictures. */
  readonly drawnFrom?: Design;
}

/** The neutral model of each kind. */
export interface Models {
  readonly solid: Solid;
  readonly drawing: Design;
  readonly picture: Pictures;
  readonly table: Workbook;
  /** Lines are parts that follow one another. */
  readonly text: Design;
  readonly bytes: Uint8Array;
}

/** Throw ReadError with a sentence and a place. */
export type Readers = {
  readonly [Kind in KindId]?: (bytes: Uint8Array, limits: Limits) => Models[Kind] | Promise<Models[Kind]>;
};

/** What files are put together from: parts of a model or drawing, rows of a table, lines of a text, whole pages, layers. */
export type UnitId = 'solid' | 'drawing' | 'table' | 'text' | 'pages' | 'layers';

/** The file as records that can be changed one by one. Throw ReadError with a sentence. */
export type Sources = { readonly [Unit in UnitId]?: (bytes: Uint8Array, limits: Limits) => Source };

/** A page as it is read, while those after it are still to come. */
export interface PageRead {
  readonly page: Page;
  readonly parts: readonly Part[];
  /** Pages of the document. */
  readonly count: number;
}

/** Bytes of a file to be replaced, so that browsers show it at a size that they cannot misread. */
export interface ShowTag {
  readonly start: number;
  readonly end: number;
  readonly tag: string;
}

/** A layered picture that can also be had as a whole. */
export interface OpenLayered extends LayeredPicture {
  /** Bits a channel. */
  readonly depth: number;
  /** All of it as it is seen: as it was saved, or else as it is composed. Throws ReadError with a sentence. */
  merged(): Promise<Bitmap>;
}

/** What can be done with files of a format. Only `read` decides what a content can be seen as. */
export interface Format {
  readonly card: Card;
  readonly read: Readers;
  /** For joining, taking back and carrying over, part by part. */
  readonly source?: Sources;
  /** The same, square by square. */
  readonly raster?: RasterFormat;
  /** What the file says of its picture, without decoding it. */
  facts?(bytes: Uint8Array): Promise<PictureFacts>;
  layers?(bytes: Uint8Array): Promise<OpenLayered>;
  /** When and by whom it was written, as it says itself. Tolerant of what cannot be read; may throw on damage. */
  written?(bytes: Uint8Array): Written;
  /** Other files that this one needs. Tolerant of what cannot be read; may throw on damage. */
  references?(bytes: Uint8Array): Iterable<Reference>;
  /**
   * A page, or a part of it, as it is seen; where parts alone do not show all of it. `side` is the longer one, in
   * pixels.
   */
  draw?(bytes: Uint8Array, page: number, side: number, part?: Box): Bitmap | Promise<Bitmap>;
  /** Page by page; what it returns is what `read.drawing` does. */
  readPages?(bytes: Uint8Array, limits: Limits): Generator<PageRead, Design, undefined>;
  showTag?(bytes: Uint8Array, page: Box): ShowTag | undefined;
  /** The content without its lock; undefined where the password is not the right one. */
  unlock?(bytes: Uint8Array, password: string): Uint8Array | undefined;
}
