/** What a kind finds out about two contents, before anything of it has a number or a sentence. */
import type { CauseKind, Change } from '../contract/comparison.ts';
import type { Saying, Within } from './say.ts';

/** A change without its number. */
export type ChangeDraft = Omit<Change, 'id'>;

/** A cause in codes and values. */
export interface CauseDraft {
  readonly kind: CauseKind;
  readonly saying: Saying;
  readonly within?: Within;
  /** Indices of the changes that it explains, wholly or in part. */
  readonly changes: readonly number[];
  /** Parts that it touches, where that is not the number of changes. */
  readonly parts?: number;
  /** How much it matters, where that does not follow from kind and number. */
  readonly weight?: number;
}

export interface Evidence {
  readonly changes: readonly ChangeDraft[];
  readonly causes: readonly CauseDraft[];
  /** Parts that are the same on both sides. */
  readonly unchanged: number;
  /** What a reader should know: plain sentences. */
  readonly notes: readonly string[];
}

/** The same causes where their changes stand elsewhere in a longer list; without those whose changes all went. */
export function withChanges(
  causes: readonly CauseDraft[],
  place: (change: number) => number | undefined,
): CauseDraft[] {
  return causes.flatMap((cause) => {
    const changes = cause.changes.flatMap((k) => place(k) ?? []);
    if (!changes.length && cause.changes.length) return [];
    const fewer = cause.parts !== undefined && changes.length < cause.changes.length;
    return [{ ...cause, changes, ...(fewer ? { parts: Math.min(cause.parts, changes.length) } : {}) }];
  });
}
