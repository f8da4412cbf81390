'use client';
import { useMemo } from 'react';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** When versions of a file go, by their ids. */
export function useGoing(fileId: string): ReadonlyMap<string, string> {
  const { data } = useAnswer(api.keeping.ofFile, { fileId }, { shouldRetryOnError: false });
  return useMemo(() => new Map(data?.going.map(({ versionId, goes }) => [versionId, goes])), [data]);
}
