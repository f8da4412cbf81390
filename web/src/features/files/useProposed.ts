import type { Version } from '../../contract/api.ts';
import { api } from '../../contract/operations/index.ts';
import type { Proposal } from '../../contract/proposals.ts';
import { useAnswer } from '../api/useAnswer.ts';

const once = { revalidateOnFocus: false, shouldRetryOnError: false };

interface Proposed {
  readonly proposal: Proposal | undefined;
  /** The version that it is done to. */
  readonly onto: Version | undefined;
}

/** What is about to be done, once all of it is here. */
export function useProposed(proposalId: string | undefined): Proposed {
  const { data } = useAnswer(api.proposals.get, proposalId === undefined ? null : { proposalId }, {
    ...once,
    keepPreviousData: true,
  });
  // While another is on its way, the one before stays.
  const found = proposalId === undefined ? undefined : data;
  const onto = useAnswer(api.versions.get, found ? { versionId: found.onto.id } : null, once);
  const isWhole = found !== undefined && onto.data?.id === found.onto.id;
  return { proposal: isWhole ? found : undefined, onto: isWhole ? onto.data : undefined };
}
