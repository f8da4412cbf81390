import { checkouts } from '../../../../../../contract/operations/checkouts.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { standingOf } from '../../../../../../server/checkouts/service.ts';

export const GET = serve(checkouts.standing, (by, { fileId, query }) => standingOf(by, fileId, query.line));
