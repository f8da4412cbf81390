'use client';

/** Versions of a file as the page needs them: found by id, fetched a page of numbers at a time. */
import useSWR, { mutate } from 'swr';
import type { RailColumns, Version } from '../../contract/api.ts';
import { call } from '../api/client.ts';
import type { Point } from './address.ts';

/** Versions are fetched in pages of numbers, so that the same request serves neighbours. */
const PAGE = 100;

const pageKey = (fileId: string, line: string, number: number): string => {
  const from = Math.floor((number - 1) / PAGE) * PAGE + 1;
  return `/files/${fileId}/versions?from=${from}&to=${from + PAGE - 1}&line=${line}`;
};

/** `line` is an id, or the position of the line. */
export const railKey = (fileId: string, line: string | number): string => `/files/${fileId}/rail?line=${line}`;

/** One version, once it is here. One without a change summary is asked for again while it is looked at. */
export function useVersion(
  fileId: string,
  line: string,
  point: Point,
  initial: readonly Version[] = [],
): Version | undefined {
  const find = (list: readonly Version[] | undefined): Version | undefined => list?.find((v) => v.id === point.id);
  const known = find(initial);
  const { data } = useSWR<readonly Version[]>(pageKey(fileId, line, point.number), (p: string) => call(p), {
    revalidateOnFocus: false,
    revalidateIfStale: !known,
    refreshInterval: (list) => {
      const version = find(list);
      return version?.summary === null && version.parentId !== null ? 2000 : 0;
    },
  });
  return find(data) ?? known;
}

/** The columns of a line; `initial` are those of one line. Until others are here, the ones before stay. */
export function useRail(fileId: string, line: string, initial: RailColumns): RailColumns {
  const fallback = line === initial.line ? { fallbackData: initial, revalidateOnMount: false } : {};
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
