import { lineQuerySchema, railSchema } from '../../../../../../contract/api.ts';
import { json, query, route } from '../../../../../../server/http/handler.ts';
import { railOf } from '../../../../../../server/versions/service.ts';

export const GET = route(async (by, { params, url }) =>
  json(railSchema, await railOf(by, params['fileId'] ?? '', query(url, lineQuerySchema).line)),
);
