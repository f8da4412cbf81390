import { versionDetailSchema } from '../../../../../contract/api.ts';
import { json, route } from '../../../../../server/http/handler.ts';
import { getVersion } from '../../../../../server/versions/service.ts';

export const GET = route(async (by, { params }) =>
  json(versionDetailSchema, await getVersion(by, params['versionId'] ?? '')),
);
