'use client';

/** Versions of a file as the page needs them: by number, fetched a page at a time. */
import useSWR, { mutate } from 'swr';
import type { RailColumns, Version } from '../../contract/api.ts';
import { pageKey } from '../../contract/pages.ts';
import { call } from '../api/client.ts';

/** The version with this number, once it is here. One without a change summary is asked for again while it is looked at. */
export function useVersion(fileId: string, number: number, initial: readonly Version[] = []): Version | undefined {
  const key = pageKey(fileId, number), find = (list: readonly Version[] | undefined): Version | undefined => list?.find((v) => v.number === number);
  const known = find(initial);
  const { data } = useSWR<readonly Version[]>(key, (p: string) => call(p), {
    revalidateOnFocus: false, revalidateIfStale: !known,
    refreshInterval: (list) => (find(list)?.summary === null && number > 1 ? 2000 : 0),
  });
  return find(data) ?? known;
}

export function useRail(fileId: string, initial: RailColumns): RailColumns {
  return useSWR<RailColumns>(`/files/${fileId}/rail`, (p: string) => call(p), { fallbackData: initial, revalidateOnMount: false }).data ?? initial;
}

/** Asks anew for all that is known of a file's versions. */
export const refreshVersions = (fileId: string): Promise<unknown> => mutate((key) => typeof key === 'string' && (key.startsWith(`/files/${fileId}/versions`) || key === `/files/${fileId}/rail`));
