import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { thumbnailResponse } from '../../../../../../server/versions/view.ts';

const sides = { '96': 96, '320': 320, '1024': 1024 } as const;

export const GET = serve(versions.thumbnail, (by, { request, versionId, query }) =>
  thumbnailResponse(by, versionId, sides[query.side ?? '96'], request.headers.get('if-none-match')),
);
