import { desk } from '../../../../../../contract/operations/desk.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { knownVersions } from '../../../../../../server/references/resembling.ts';

export const POST = serve(desk.known, (by, { projectId, body }) => knownVersions(by, projectId, body.files));
