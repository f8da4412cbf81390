import { keeping } from '../../../../contract/operations/keeping.ts';
import { serve } from '../../../../server/http/serve.ts';
import { goingOfMine } from '../../../../server/keeping/service.ts';

export const GET = serve(keeping.mine, (by, { query }) => goingOfMine(by, query.days));
