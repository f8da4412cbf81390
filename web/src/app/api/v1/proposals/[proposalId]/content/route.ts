import { proposals } from '../../../../../../contract/operations/proposals.ts';
import { serveUpload } from '../../../../../../server/http/serve.ts';
import { byHand } from '../../../../../../server/proposals/service.ts';

export const POST = serveUpload(proposals.byHand, (by, { proposalId }, _fields, incoming) =>
  byHand(by, proposalId, incoming),
);
