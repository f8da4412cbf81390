import { desk } from '../../../../../../contract/operations/desk.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { resembling } from '../../../../../../server/references/resembling.ts';

export const POST = serve(desk.resembling, (by, { projectId, body }) => resembling(by, projectId, body.files));
