import { useState } from 'react';
import { mutate } from 'swr';
import type { VersionDetail } from '../../contract/api.ts';
import { call } from '../api/client.ts';

/** Asks for what was too slow or came to a busy machine once more. */
export function useLookAgain(versionId: string | undefined): {
  readonly lookAgain: () => void;
  readonly busy: boolean;
} {
  const [busy, setBusy] = useState(false);
  const lookAgain = (): void => {
    if (versionId === undefined) return;
    setBusy(true);
    const path = `/versions/${versionId}`;
    void mutate(path, call<VersionDetail>(`${path}?again=yes`), { revalidate: false })
      .catch(() => undefined)
      .finally(() => setBusy(false));
  };
  return { lookAgain, busy };
}
