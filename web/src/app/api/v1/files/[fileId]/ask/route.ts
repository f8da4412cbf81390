import { checkouts } from '../../../../../../contract/operations/checkouts.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { askFor } from '../../../../../../server/checkouts/service.ts';

export const POST = serve(checkouts.ask, (by, { fileId, body }) => askFor(by, fileId, body.reason, body.line));
