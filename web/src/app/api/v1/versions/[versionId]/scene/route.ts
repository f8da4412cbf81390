import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { sceneResponse } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.scene, (by, { request, versionId, query }) =>
  sceneResponse(by, versionId, query.page, request),
);
