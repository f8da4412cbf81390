import type { Format } from './format.ts';

/** Kinds of content, nearest first: what can be seen as two of them is compared as the earlier one. */
export const kindIds = ['solid', 'drawing', 'picture', 'table', 'text', 'bytes'] as const;
export type KindId = (typeof kindIds)[number];

/** Kinds that there is a picture of, and kinds that are read part by part, or line by line. */
export const picturedKinds: ReadonlySet<KindId> = new Set(['solid', 'drawing', 'picture']);
export const readKinds: ReadonlySet<KindId> = new Set(['solid', 'drawing', 'table', 'text']);

/** How sure a format is, from the first bytes of a file, that it is its own. */
export type Confidence = 'certain' | 'likely' | 'no';

/**
 * How a browser gets to see a content: as it is; as pictures that are made of it; drawn from its parts; as a model in space; as cells;
 * as lines; not at all.
 */
export type Show = 'itself' | 'decoded' | 'parts' | 'space' | 'cells' | 'lines' | 'nothing';

/** A format that browsers show as it is, but too slowly where it has many parts. */
export interface Crowd {
  /** More parts than this are drawn from the parts. */
  readonly parts: number;
  /** Smaller files never have so many, in bytes. */
  readonly bytes: number;
}

/** All that may be known of a format from outside. What it takes to read it is loaded when it is needed. */
export interface Card {
  readonly id: string;
  /** The name that people use, as in "an SVG drawing". */
  readonly title: string;
  /** In small letters, the usual one first. */
  readonly extensions: readonly string[];
  readonly mime: string;
  /** Name of an icon of bootstrap-icons. */
  readonly icon: string;
  /** By content; the name counts only where content of this kind could be anything. */
  sniff(head: Uint8Array, name: string): Confidence;
  /** What the format itself can be read as, nearest first; what else it can be seen as, conversions say. */
  readonly kinds: readonly KindId[];
  readonly show: Show;
  readonly crowd?: Crowd;
  /** What its pages are called, where it may have several. `sheets` are always shown page by page. */
  readonly pages?: 'pages' | 'frames' | 'sheets';
  /** What its categories and its pages are called; absent where they are layers, or groups, and pages. */
  readonly called?: { readonly category: 'discipline' | 'column'; readonly page: 'storey' | 'sheet' };
  /** Made of layers that can be shown one by one. */
  readonly layers?: true;
  /** Parts of a page can be drawn as finely as one likes. */
  readonly fine?: true;
  /** Keeps pixels only nearly as they were. */
  readonly lossy?: true;
  /** Compressed already: packing it again gains nothing. */
  readonly packed?: true;
  /** May be locked with a password. */
  readonly lockable?: true;
  /** A manner of writing more than a format: what is recognised more closely later is no other format. */
  readonly general?: true;
  /** What its files are put together from; parts where it is left out. */
  readonly pieces?: 'pages' | 'layers' | 'areas';
  /** How its changed parts alone can be written. */
  readonly writes?: 'lossless' | 'whole';
  load(): Promise<Format>;
}

/** The first bytes as text of one byte a character. */
export const latinOf = (head: Uint8Array, length = head.length): string =>
  new TextDecoder('latin1').decode(head.subarray(0, length));
