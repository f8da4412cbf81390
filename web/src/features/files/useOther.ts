import useSWR from 'swr';
import type { FileEntry, Version, VersionDetail } from '../../contract/api.ts';
import { call } from '../api/client.ts';

/** A version from elsewhere that takes the place of A: of another file, or another line. */
export interface Other {
  readonly version: Version;
  readonly name: string;
}

export function useOther(versionId: string | undefined): {
  readonly other: Other | undefined;
  readonly problem: Error | undefined;
} {
  const version = useSWR<VersionDetail, Error>(
    versionId === undefined ? null : `/versions/${versionId}`,
    (p: string) => call(p),
    { revalidateOnFocus: false, shouldRetryOnError: false },
  );
  const found = versionId === undefined ? undefined : version.data;
  const file = useSWR<FileEntry, Error>(found ? `/files/${found.fileId}` : null, (p: string) => call(p), {
    revalidateOnFocus: false,
    shouldRetryOnError: false,
  });
  return {
    other: found && file.data ? { version: found, name: file.data.name } : undefined,
    problem: versionId === undefined ? undefined : (version.error ?? file.error),
  };
}
