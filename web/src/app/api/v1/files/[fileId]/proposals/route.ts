import { proposals } from '../../../../../../contract/operations/proposals.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { openProposal, propose } from '../../../../../../server/proposals/service.ts';

export const GET = serve(proposals.open, (by, { fileId }) => openProposal(by, fileId));

export const POST = serve(proposals.make, (by, { fileId, body }) => propose(by, fileId, body.asked, body.line));
