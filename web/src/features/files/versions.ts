'use client';

/** Versions of a file as the page needs them: found by id, fetched a page of numbers at a time. */
import { mutate } from 'swr';
import type { RailColumns, Version } from '../../contract/api.ts';
import type { VersionPoint } from './address.ts';
import { api } from '../../contract/operations/index.ts';
import { addressOf, type Input } from '../../contract/operation.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** Versions are fetched in pages of numbers, so that the same request serves neighbours. */
const PAGE = 100;

const pageOf = (fileId: string, line: string, number: number): Input<typeof api.files.versions> => {
  const from = Math.floor((number - 1) / PAGE) * PAGE + 1;
  return { fileId, query: { from, to: from + PAGE - 1, line } };
};

/** `line` is an id, or the position of the line. */
export const railOf = (fileId: string, line: string | number): Input<typeof api.files.rail> => ({
  fileId,
  query: { line },
});

/** One version, once it is here. One without a change summary is asked for again while it is looked at. */
export function useVersion(
  fileId: string,
  line: string,
  point: VersionPoint,
  initial: readonly Version[] = [],
): Version | undefined {
  const find = (list: readonly Version[] | undefined): Version | undefined => list?.find((v) => v.id === point.id);
  const known = find(initial);
  const { data } = useAnswer(api.files.versions, pageOf(fileId, line, point.number), {
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
  return useAnswer(api.files.rail, railOf(fileId, line), { keepPreviousData: true, ...fallback }).data ?? initial;
}

/** Asks anew for all that is known of a file's versions, and of files that were made of them. */
export const refreshVersions = (fileId: string): Promise<unknown> =>
  mutate(
    (key) =>
      typeof key === 'string' &&
      (key.startsWith(addressOf(api.files.versions, { fileId })) ||
        key.startsWith(addressOf(api.files.rail, { fileId })) ||
        key === addressOf(api.keeping.ofFile, { fileId }) ||
        key === addressOf(api.lines.lineage, { fileId })),
  );
