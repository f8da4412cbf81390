import { pageQuerySchema } from '../../../../../../contract/api.ts';
import { query, route } from '../../../../../../server/http/handler.ts';
import { sceneResponse } from '../../../../../../server/versions/view.ts';

export const GET = route(async (by, { request, params, url }) =>
  sceneResponse(by, params['versionId'] ?? '', query(url, pageQuerySchema).page, request),
);
