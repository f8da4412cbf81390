import type { Evidence } from '../causes/draft.ts';
import type { Comparison, SolidMeasures } from '../contract/comparison.ts';
import type { KindId } from '../model/card.ts';
import type { Design } from '../model/design.ts';
import type { Models } from '../model/format.ts';
import type { Pairing } from '../match/pairing.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import type { Content } from './content.ts';
import type { ChangeOutlines } from './drawing/outlines.ts';

export interface CompareOptions {
  /** Distance in design units within which places count as the same; chosen from the data by default. */
  readonly tolerance?: number;
}

/** A content seen as a kind. */
export interface Seen<Model> {
  readonly content: Content;
  readonly model: Model;
}

/** The parts that changes are of: two designs, and for each change the index of its part in A and in B, −1 for none. */
export interface ComparedParts {
  readonly a: Design;
  readonly b: Design;
  readonly parts: readonly (readonly [number, number])[];
}

/** What a kind finds out about two contents. */
export interface FoundInPair extends Evidence {
  /** Unit of boxes and lengths. */
  readonly unit: string;
  readonly tolerance: number;
  readonly outlines: ChangeOutlines;
  readonly titleBlocks?: Comparison['titleBlocks'];
  /** What is to be known of each side, where reading them did not tell it. */
  readonly sideNotes?: { readonly a: readonly string[]; readonly b: readonly string[] };
  readonly parts?: ComparedParts;
  /** Of models. */
  readonly measures?: SolidMeasures;
  /** Of pictures: the differences of their squares (difference/packed-map.ts). */
  readonly map?: Uint8Array;
}

/** Which part of one version is which of the next, and which of B's parts differ from theirs. */
export interface Step {
  readonly pairing: Pairing;
  readonly edited: ReadonlySet<number>;
}

/** What can be done with contents of one kind. A new kind is a folder and a line in the registry. */
export interface Kind<Model> {
  readonly id: KindId;
  /** How closely contents are looked at, in the word that people read. */
  readonly level: Comparison['level'];
  /** Whether two models can be compared with one another; all can where it is left out. */
  comparable?: (a: Model, b: Model) => boolean;
  /** Throws ReadError where one of them turns out to be unreadable. */
  compare: (a: Seen<Model>, b: Seen<Model>, options: CompareOptions) => FoundInPair | Promise<FoundInPair>;
  /** What was done from one version to the next, for following parts through a history. */
  step?: (a: Model, b: Model, options: CompareOptions) => Step;
  /** For each of these parts of A where it is in B, −1 where it is gone. */
  follow?: (a: Model, b: Model, parts: readonly number[]) => number[];
  /** The smallest part that is drawn within `reach` of a point of a page; −1 for none. */
  partAt?: (model: Model, page: string, at: readonly [number, number], reach: number) => number;
  /** A page as it is seen, its longer side `side` pixels at most. */
  picture?: (seen: Seen<Model>, page: number, side: number) => Promise<Bitmap>;
}

export type Kinds = { readonly [Id in KindId]: Kind<Models[Id]> };
