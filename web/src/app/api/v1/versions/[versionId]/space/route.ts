import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { spaceResponse } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.space, (by, { request, versionId }) => spaceResponse(by, versionId, request));
