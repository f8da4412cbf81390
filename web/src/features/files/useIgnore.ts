import { useCallback } from 'react';
import useSWR from 'swr';
import { ignoreNothing, type Ignore, type Preferences } from '../../contract/preferences.ts';
import { call } from '../api/client.ts';

/** What the person does not want to see in comparisons, kept for them by the server. */
export function useIgnore(): { readonly ignore: Ignore; readonly setIgnore: (next: Ignore) => void } {
  const { data, mutate } = useSWR<Preferences>('/preferences', (p: string) => call(p), { revalidateOnFocus: false });
  const setIgnore = useCallback(
    (ignore: Ignore): void => {
      void mutate(call<Preferences>('/preferences', 'PUT', { ignore }), {
        optimisticData: { ignore },
        rollbackOnError: true,
        revalidate: false,
      });
    },
    [mutate],
  );
  return { ignore: data?.ignore ?? ignoreNothing, setIgnore };
}
