/** What comes of putting files together, and how it is decided. */
import type { Choice, ToldClash } from '../contract/joining.ts';

export interface Joined {
  readonly bytes: Uint8Array;
  readonly clashes: readonly ToldClash[];
  /** Changes of theirs that are bound to others that were not chosen: names of parts. */
  readonly inseparable: readonly string[];
  /** False where nothing had to be done. */
  readonly changed: boolean;
}

export interface JoinOptions {
  /** By the key of a clash. */
  readonly decisions?: ReadonlyMap<string, Choice>;
  /** For clashes that are not decided. */
  readonly prefer?: Choice;
}
