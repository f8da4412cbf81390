import { useState } from 'react';
import { mutate } from 'swr';
import { call } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';
import { addressOf } from '../../contract/operation.ts';

/** Asks for what was too slow or came to a busy machine once more. */
export function useLookAgain(versionId: string | undefined): {
  readonly lookAgain: () => void;
  readonly busy: boolean;
} {
  const [busy, setBusy] = useState(false);
  const lookAgain = (): void => {
    if (versionId === undefined) return;
    setBusy(true);
    const anew = call(api.versions.get, { versionId, query: { again: 'yes' } });
    void mutate(addressOf(api.versions.get, { versionId }), anew, { revalidate: false })
      .catch(() => undefined)
      .finally(() => setBusy(false));
  };
  return { lookAgain, busy };
}
