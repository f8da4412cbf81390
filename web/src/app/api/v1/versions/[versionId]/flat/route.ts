import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { flatResponse } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.flat, (by, { versionId, query }) => flatResponse(by, versionId, query));
