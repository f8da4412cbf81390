import type { Design, Origin } from './design.ts';
import type { Limits } from './limits.ts';

/** How sure a format is, from the first bytes alone, that a file is its own. */
export type Confidence = 'certain' | 'likely' | 'no';

/** One file format. It never looks at names to decide what bytes mean. */
export interface Format {
  readonly id: string;
  /** The name that people use, as in "an SVG drawing". */
  readonly title: string;
  readonly extensions: readonly string[];
  readonly mime: string;
  sniff(head: Uint8Array): Confidence;
  /** Parts, where the format has a reader. Throws ReadError with a sentence and a place. */
  read?(bytes: Uint8Array, limits: Limits): Design;
  /** Which program wrote the file, as far as the file says. */
  origin?(head: Uint8Array): Origin;
}
