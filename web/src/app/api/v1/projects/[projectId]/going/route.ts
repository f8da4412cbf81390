import { keeping } from '../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { goingIn } from '../../../../../../server/keeping/service.ts';

export const GET = serve(keeping.going, (by, { projectId, query }) => goingIn(by, projectId, query.days));
