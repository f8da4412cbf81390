import { proposals } from '../../../../../../contract/operations/proposals.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { landProposal } from '../../../../../../server/proposals/service.ts';

export const POST = serve(proposals.land, (by, { proposalId, body }) =>
  landProposal(by, proposalId, body.note, body.undecided),
);
