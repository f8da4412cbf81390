'use client';

/** Versions of a file as the page needs them: by number, fetched a page at a time. */
import useSWR, { mutate } from 'swr';
import type { RailColumns, Version } from '../../contract/api.ts';
import { pageKey, railKey } from '../../contract/pages.ts';
import { call } from '../api/client.ts';

/** The version with this number, once it is here. One without a change summary is asked for again while it is looked at. */
export function useVersion(
  fileId: string,
  line: number,
  number: number,
  initial: readonly Version[] = [],
): Version | undefined {
  const key = pageKey(fileId, line, number);
  const find = (list: readonly Version[] | undefined): Version | undefined => list?.find((v) => v.number === number);
  const known = find(initial);
  const { data } = useSWR<readonly Version[]>(key, (p: string) => call(p), {
    revalidateOnFocus: false,
    revalidateIfStale: !known,
    refreshInterval: (list) => (find(list)?.summary === null && number > 1 ? 2000 : 0),
  });
  return find(data) ?? known;
}

/** The columns of a line; `initial` are those of `initialLine`. Until others are here, the ones before stay. */
export function useRail(fileId: string, line: number, initial: RailColumns, initialLine: number): RailColumns {
  const fallback = line === initialLine ? { fallbackData: initial, revalidateOnMount: false } : {};
  return (
    useSWR<RailColumns>(railKey(fileId, line), (p: string) => call<RailColumns>(p), {
      keepPreviousData: true,
      ...fallback,
    }).data ?? initial
  );
}

/** Asks anew for all that is known of a file's versions. */
export const refreshVersions = (fileId: string): Promise<unknown> =>
  mutate(
    (key) =>
      typeof key === 'string' &&
      (key.startsWith(`/files/${fileId}/versions`) || key.startsWith(`/files/${fileId}/rail`)),
  );
