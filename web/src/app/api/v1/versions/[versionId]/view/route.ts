import { query, route } from '../../../../../../server/http/handler.ts';
import { viewQuerySchema } from '../../../../../../contract/api.ts';
import { viewOf } from '../../../../../../server/versions/view.ts';

export const GET = route(async (by, { request, params, url }) =>
  viewOf(by, params['versionId'] ?? '', request.headers.get('if-none-match'), query(url, viewQuerySchema)),
);
