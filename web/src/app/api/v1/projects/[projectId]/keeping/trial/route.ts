import { keeping } from '../../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../../server/http/serve.ts';
import { tryKeeping } from '../../../../../../../server/keeping/trial.ts';

export const POST = serve(keeping.try, (by, { projectId, body }) => tryKeeping(by, projectId, body));
