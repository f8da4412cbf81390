import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { bringForward } from '../../../../../../server/versions/service.ts';

export const POST = serve(versions.bringForward, (by, { versionId, body }) => bringForward(by, versionId, body.note));
