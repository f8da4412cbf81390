import { checkouts } from '../../../../../../contract/operations/checkouts.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { takeOver } from '../../../../../../server/checkouts/service.ts';

export const POST = serve(checkouts.takeOver, (by, { fileId, body }) => takeOver(by, fileId, body.reason, body.line));
