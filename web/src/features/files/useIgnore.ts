import { useCallback } from 'react';
import { ignoreNothing, type Ignore } from '../../contract/preferences.ts';
import { call } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** What the person does not want to see in comparisons, kept for them by the server. */
export function useIgnore(): { readonly ignore: Ignore; readonly setIgnore: (next: Ignore) => void } {
  const { data, mutate } = useAnswer(api.people.preferences, {}, { revalidateOnFocus: false });
  const setIgnore = useCallback(
    (ignore: Ignore): void => {
      void mutate(call(api.people.setPreferences, { body: { ignore } }), {
        optimisticData: { ignore },
        rollbackOnError: true,
        revalidate: false,
      });
    },
    [mutate],
  );
  return { ignore: data?.ignore ?? ignoreNothing, setIgnore };
}
