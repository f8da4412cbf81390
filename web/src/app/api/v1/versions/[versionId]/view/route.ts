import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { viewOf } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.view, (by, { request, versionId, query }) =>
  viewOf(by, versionId, request.headers.get('if-none-match'), query),
);
