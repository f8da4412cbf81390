import { route } from '../../../../../../server/http/handler.ts';
import { thumbnailResponse } from '../../../../../../server/versions/view.ts';

export const GET = route(async (by, { request, params, url }) =>
  thumbnailResponse(
    by,
    params['versionId'] ?? '',
    url.searchParams.get('side') === '320' ? 320 : 96,
    request.headers.get('if-none-match'),
  ),
);
