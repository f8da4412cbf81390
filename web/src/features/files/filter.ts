/** Which changes and causes of a comparison are listed and drawn. */
import { useMemo } from 'react';
import type { Cause, Change, ChangeKind } from '@ovrel/core/contract';
import type { Toucher } from './useWho.ts';
import type { Ignore } from '../../contract/preferences.ts';

type Box = readonly [number, number, number, number];

export interface Filter {
  /** Kinds that are left out. */
  readonly without: ReadonlySet<ChangeKind>;
  /** One layer, or undefined for all. */
  readonly category: string | undefined;
  readonly aspect: string | undefined;
  /** Id of the one cause that is looked into. */
  readonly cause: string | undefined;
  /** Name of a block whose placements are looked at. */
  readonly block: string | undefined;
  readonly page: string | undefined;
  /** Id of a person who touched the part. */
  readonly person: string | undefined;
  /** Changes smaller than this are left out, in design units. */
  readonly least: number | undefined;
  /** Part of the page that is looked at, in page coordinates. */
  readonly area: Box | undefined;
}

export const emptyFilter: Filter = {
  without: new Set(),
  category: undefined,
  aspect: undefined,
  cause: undefined,
  block: undefined,
  page: undefined,
  person: undefined,
  least: undefined,
  area: undefined,
};

export const blockOf = (change: Change): string | undefined =>
  change.part.kind === 'placement' ? change.part.name : undefined;

const touches = (box: Change['boxA'], area: Box): boolean =>
  box !== null && box[0] <= area[2] && box[2] >= area[0] && box[1] <= area[3] && box[3] >= area[1];

/** `touchers` are those who touched the part of the change. */
export const passes = (change: Change, filter: Filter, touchers: readonly Pick<Toucher, 'id'>[] = []): boolean =>
  !filter.without.has(change.kind) &&
  (filter.category === undefined ||
    change.partA?.category === filter.category ||
    change.partB?.category === filter.category) &&
  (filter.aspect === undefined || change.what.some((w) => w.aspect === filter.aspect)) &&
  (filter.block === undefined || blockOf(change) === filter.block) &&
  (filter.page === undefined || change.part.page === filter.page) &&
  (filter.person === undefined || touchers.some((p) => p.id === filter.person)) &&
  (filter.least === undefined || change.size >= filter.least) &&
  (filter.area === undefined || touches(change.boxA, filter.area) || touches(change.boxB, filter.area));

/** What is left when a person does not want to see some kinds of difference. */
export function disregard(
  { changes, causes }: { readonly changes: readonly Change[]; readonly causes: readonly Cause[] },
  ignore: Ignore,
): { changes: readonly Change[]; causes: readonly Cause[]; ignored: number } {
  if (!ignore.style && !ignore.formatting && !ignore.order && !ignore.numbering && ignore.below === null)
    return { changes, causes, ignored: 0 };
  const small = (change: Change): boolean => ignore.below !== null && change.size < ignore.below;
  const left = changes.flatMap((change): Change[] => {
    if (!change.what.length) return small(change) && change.size > 0 ? [] : [change];
    const what = change.what.filter(
      (w) =>
        !(ignore.style && w.aspect === 'style') &&
        !(ignore.formatting && w.aspect === 'formatting') &&
        !((w.aspect === 'placement' || w.aspect === 'geometry') && small(change)),
    );
    if (!what.length) return [];
    return [
      what.length === change.what.length
        ? change
        : {
            ...change,
            what,
            kind: change.kind === 'changed' && what.every((w) => w.aspect === 'placement') ? 'moved' : change.kind,
          },
    ];
  });
  const ids = new Set(left.map((c) => c.id));
  const unwanted = (cause: Cause): boolean =>
    (ignore.style && (cause.kind === 'style' || cause.kind === 'layer-look')) ||
    (ignore.formatting && cause.kind === 'formatting') ||
    (ignore.order && cause.kind === 'order') ||
    (ignore.numbering && cause.kind === 'renumbered');
  const kept = causes.flatMap((cause): Cause[] => {
    if (unwanted(cause)) return [];
    const of = cause.changes.filter((id) => ids.has(id));
    return cause.changes.length && !of.length ? [] : [{ ...cause, changes: of }];
  });
  return { changes: left, causes: kept, ignored: changes.length - left.length };
}

const none: readonly Change[] = [];

export const useFiltered = (
  changes: readonly Change[] | undefined,
  causes: readonly Cause[] | undefined,
  filter: Filter,
  touchersOf: (id: string) => readonly Toucher[],
): readonly Change[] =>
  useMemo(() => {
    const cause = filter.cause === undefined ? undefined : causes?.find((c) => c.id === filter.cause);
    const of = cause && new Set(cause.changes);
    return changes?.filter((c) => passes(c, filter, touchersOf(c.id)) && (!of || of.has(c.id))) ?? none;
  }, [changes, causes, filter, touchersOf]);

/** How often each value occurs, the most frequent first. */
export function tally(values: readonly string[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].sort((p, q) => q[1] - p[1] || p[0].localeCompare(q[0]));
}
