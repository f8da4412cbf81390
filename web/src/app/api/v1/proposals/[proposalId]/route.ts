import { proposals } from '../../../../../contract/operations/proposals.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { decide, discard, getProposal } from '../../../../../server/proposals/service.ts';

export const GET = serve(proposals.get, (by, { proposalId }) => getProposal(by, proposalId));

export const PATCH = serve(proposals.decide, (by, { proposalId, body }) => decide(by, proposalId, body.decisions));

export const DELETE = serve(proposals.discard, (by, { proposalId }) => discard(by, proposalId));
