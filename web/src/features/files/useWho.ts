import { useMemo } from 'react';
import type { ComparisonResponse, Version, Who } from '../../contract/api.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** A person and the versions in which they touched a part. */
export interface Toucher {
  readonly id: string;
  readonly name: string;
  readonly versions: readonly number[];
}

export interface WhoChanged {
  /** Those who touched the part of a change, in the order in which they first did. */
  readonly of: (changeId: string) => readonly Toucher[];
  /** Why nothing is known, where that is so. */
  readonly sentence: string | undefined;
}

const nobody: readonly Toucher[] = [];

export function touchersOf(who: Who, changeId: string): readonly Toucher[] {
  const out = new Map<string, { id: string; name: string; versions: number[] }>();
  for (const place of who.touched[changeId] ?? []) {
    const made = who.versions[place];
    if (!made) continue;
    const known = out.get(made.by.id);
    if (known) known.versions.push(made.number);
    else out.set(made.by.id, { ...made.by, versions: [made.number] });
  }
  return [...out.values()];
}

/** Who made each change. It follows the comparison, which is shown without waiting for it. */
export function useWho(
  a: Version,
  b: Version,
  tolerance: number | undefined,
  compared: ComparisonResponse | undefined,
): WhoChanged {
  const wanted = compared?.comparison.changes.length && compared.comparison.level !== 'bytes';
  const { data } = useAnswer(api.comparisons.who, wanted ? { query: { a: a.id, b: b.id, tolerance } } : null, {
    revalidateOnFocus: false,
    shouldRetryOnError: false,
  });
  return useMemo(() => {
    const known = new Map(data ? Object.keys(data.touched).map((id) => [id, touchersOf(data, id)] as const) : []);
    return { of: (id) => known.get(id) ?? nobody, sentence: data?.sentence ?? undefined };
  }, [data]);
}
