import type { Version } from '../../contract/api.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

const once = { revalidateOnFocus: false, shouldRetryOnError: false };

/** A version from elsewhere that takes the place of A: of another file, or another line. */
export interface Other {
  readonly version: Version;
  readonly name: string;
}

export function useOther(versionId: string | undefined): {
  readonly other: Other | undefined;
  readonly problem: Error | undefined;
} {
  const version = useAnswer(api.versions.get, versionId === undefined ? null : { versionId }, once);
  const found = versionId === undefined ? undefined : version.data;
  const file = useAnswer(api.files.get, found ? { fileId: found.fileId } : null, once);
  return {
    other: found && file.data ? { version: found, name: file.data.name } : undefined,
    problem: versionId === undefined ? undefined : (version.error ?? file.error),
  };
}
