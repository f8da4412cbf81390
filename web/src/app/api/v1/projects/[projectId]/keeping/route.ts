import { keeping } from '../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { getKeeping, setKeeping } from '../../../../../../server/keeping/service.ts';

export const GET = serve(keeping.get, (by, { projectId, query }) => getKeeping(by, projectId, query));

export const PUT = serve(keeping.set, (by, { projectId, body }) => setKeeping(by, projectId, body));
