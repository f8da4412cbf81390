import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { thumbnailResponse } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.thumbnail, (by, { request, versionId, query }) =>
  thumbnailResponse(by, versionId, query.side === '320' ? 320 : 96, request.headers.get('if-none-match')),
);
