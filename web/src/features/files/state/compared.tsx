'use client';

/** What is known of the versions shown: the comparison, what of it passes the filter, and what is chosen in it. */
import { useCallback, useMemo, useState } from 'react';
import type { Cause, Change } from '@ovrel/core/contract';
import { THRESHOLD } from '@ovrel/core/regions';
import type { ComparisonResponse, Version, VersionDetail } from '../../../contract/api.ts';
import type { Ignore } from '../../../contract/preferences.ts';
import { sentenceOf } from '../../api/client.ts';
import { contextOf } from '../../frame/context.tsx';
import { useDifference, usePlaces, type PixelDifference } from '../../viewer/useDifference.ts';
import { disregard, emptyFilter, useFiltered, type Filter } from '../filter.ts';
import { useIgnore } from '../useIgnore.ts';
import { Passwords, useUnlocked } from '../useUnlocked.ts';
import { useWho, type WhoChanged } from '../useWho.ts';
import { useShown } from './shown.tsx';
import { usePairState } from './usePairState.ts';
import { api } from '../../../contract/operations/index.ts';
import { useAnswer } from '../../api/useAnswer.ts';

type Setter<T> = (next: T | ((before: T) => T)) => void;

export interface ComparedHere {
  /** Of B. */
  readonly detail: VersionDetail | undefined;
  /** Undefined until the comparison is there, and where only one version is shown. */
  readonly result: ComparisonResponse | undefined;
  readonly problem: string | undefined;
  /** Versions shown that are locked with a password. */
  readonly locked: readonly Version[];
  readonly unlock: (version: Version, password: string) => Promise<string | undefined>;
  readonly who: WhoChanged;
  readonly ignore: Ignore;
  readonly setIgnore: (ignore: Ignore) => void;
  /** Changes and causes after what is ignored. */
  readonly changes: readonly Change[];
  readonly causes: readonly Cause[];
  readonly ignored: number;
  readonly filter: Filter;
  readonly setFilter: Setter<Filter>;
  /** Changes that pass the filter. */
  readonly listed: readonly Change[];
  readonly selected: string | undefined;
  readonly chosen: Change | undefined;
  readonly select: (id: string | undefined) => void;
  readonly stepChange: (by: number) => void;
  /** Of two pictures: how much their squares differ, and from which difference on a place is listed. */
  readonly difference: PixelDifference | undefined;
  readonly threshold: number;
  readonly setThreshold: Setter<number>;
  /** Distance within which places count as the same; undefined for the usual one. */
  readonly setTolerance: Setter<number | undefined>;
  /** True while a rectangle is being drawn on the page, to which the list is limited then. */
  readonly drawing: boolean;
  readonly setDrawing: Setter<boolean>;
  /** A page that was asked for in a list; anew each time. */
  readonly page: { readonly name: string } | undefined;
  readonly goToPage: (name: string) => void;
}

const [Provider, useCompared] = contextOf<ComparedHere>('Compared');
export { useCompared };

const nothingLeft = { changes: [], causes: [], ignored: 0 };
const kept = { revalidateOnFocus: false, shouldRetryOnError: false };

export function ComparedProvider({ children }: { readonly children: React.ReactNode }): React.ReactNode {
  const { a, b, comparing } = useShown();
  const pair = `${a.id} ${b.id}`;
  const [tolerance, setTolerance] = usePairState<number | undefined>(pair, undefined);
  const [threshold, setThreshold] = usePairState(pair, THRESHOLD);
  const { detail, result, error, locked, give, passwords } = useOpened(tolerance);
  const { ignore, setIgnore } = useIgnore();
  const difference = useDifference(a, b, result);
  const places = usePlaces(result, difference, threshold);
  const left = useMemo(
    () => (result && places ? disregard({ causes: result.comparison.causes, changes: places }, ignore) : nothingLeft),
    [result, places, ignore],
  );
  const who = useWho(a, b, tolerance, result);
  const [filter, setFilter] = usePairState<Filter>(pair, emptyFilter);
  const listed = useFiltered(left.changes, left.causes, filter, who.of);
  const choice = useChoice(pair, listed);
  const [drawing, setDrawing] = usePairState(pair, false);
  const [page, setPage] = useState<{ readonly name: string }>();
  const goToPage = useCallback((name: string): void => setPage({ name }), []);
  const value: ComparedHere = {
    detail,
    result,
    problem: error && sentenceOf(error),
    locked,
    unlock: give,
    who,
    ignore,
    setIgnore,
    ...left,
    filter,
    setFilter,
    listed,
    ...choice,
    chosen: comparing ? choice.chosen : undefined,
    difference,
    threshold,
    setThreshold,
    setTolerance,
    drawing,
    setDrawing,
    page,
    goToPage,
  };
  return (
    <Provider value={value}>
      <Passwords value={passwords}>{children}</Passwords>
    </Provider>
  );
}

/** The look of B and the comparison of both, as they are once the passwords are given. */
function useOpened(tolerance: number | undefined): {
  detail: VersionDetail | undefined;
  result: ComparisonResponse | undefined;
  error: Error | undefined;
} & Pick<ReturnType<typeof useUnlocked>, 'locked' | 'give' | 'passwords'> {
  const { a, b, comparing } = useShown();
  const asked = useAnswer(api.versions.get, { versionId: b.id }, { revalidateOnFocus: false, keepPreviousData: false });
  const fetched = useAnswer(api.comparisons.get, comparing ? { query: { a: a.id, b: b.id, tolerance } } : null, kept);
  const { detail, compared, locked, give, passwords } = useUnlocked(
    a,
    b,
    asked.data,
    comparing ? fetched.data : undefined,
  );
  return {
    detail: detail?.id === b.id ? detail : undefined,
    result: comparing ? compared : undefined,
    error: comparing ? fetched.error : undefined,
    locked,
    give,
    passwords,
  };
}

/** The change that is chosen in the list. */
function useChoice(
  pair: string,
  listed: readonly Change[],
): Pick<ComparedHere, 'selected' | 'chosen' | 'select' | 'stepChange'> {
  const [selected, select] = usePairState<string | undefined>(pair, undefined);
  const stepChange = (by: number): void => {
    if (!listed.length) return;
    const at = listed.findIndex((c) => c.id === selected);
    const first = by > 0 ? 0 : listed.length - 1;
    const next = at < 0 ? first : (at + by + listed.length) % listed.length;
    select(listed[next]?.id);
  };
  return { selected, chosen: listed.find((c) => c.id === selected), select, stepChange };
}
