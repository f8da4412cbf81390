/** Which changes of a comparison are listed and drawn. */
import { useMemo } from 'react';
import type { Change, ChangeKind } from '@ovrel/core/contract';

export interface Filter {
  /** Kinds that are left out. */
  readonly without: ReadonlySet<ChangeKind>;
  /** One layer, or undefined for all. */
  readonly category: string | undefined;
  readonly aspect: string | undefined;
}

export const emptyFilter: Filter = { without: new Set(), category: undefined, aspect: undefined };

export const passes = (change: Change, filter: Filter): boolean =>
  !filter.without.has(change.kind) &&
  (filter.category === undefined || change.partA?.category === filter.category || change.partB?.category === filter.category) &&
  (filter.aspect === undefined || change.what.some((w) => w.aspect === filter.aspect));

const none: readonly Change[] = [];

export const useFiltered = (changes: readonly Change[] | undefined, filter: Filter): readonly Change[] =>
  useMemo(() => changes?.filter((c) => passes(c, filter)) ?? none, [changes, filter]);

/** How often each value occurs, the most frequent first. */
export function tally(values: readonly string[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].sort((p, q) => q[1] - p[1] || p[0].localeCompare(q[0]));
}
