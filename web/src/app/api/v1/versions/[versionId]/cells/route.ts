import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { cellsResponse } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.cells, (by, { request, versionId }) => cellsResponse(by, versionId, request));
