'use client';
/** What an operation answers, kept by its address, so that every place that asks the same shares one answer. */
import useSWR, { type SWRConfiguration, type SWRResponse } from 'swr';
import { addressOf, type Answer, type Input, type Operation } from '../../contract/operation.ts';
import { call } from './client.ts';

/** Lists that a page came with are not to be changed. */
type Known<T> = T extends (infer Item)[] ? readonly Item[] : T;

/** Without an input nothing is asked. */
export function useAnswer<O extends Operation>(
  operation: O,
  input: Input<O> | null | undefined,
  options: Omit<SWRConfiguration<Answer<O>, Error>, 'fallbackData'> & { readonly fallbackData?: Known<Answer<O>> } = {},
): SWRResponse<Answer<O>, Error> {
  return useSWR<Answer<O>, Error>(
    input ? addressOf(operation, input) : null,
    input ? () => call(operation, input) : null,
    options as SWRConfiguration<Answer<O>, Error>,
  );
}
