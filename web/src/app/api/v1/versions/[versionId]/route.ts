import { againQuerySchema, versionDetailSchema } from '../../../../../contract/api.ts';
import { json, query, route } from '../../../../../server/http/handler.ts';
import { getVersion } from '../../../../../server/versions/service.ts';

export const GET = route(async (by, { params, url }) => {
  const { again } = query(url, againQuerySchema);
  return json(versionDetailSchema, await getVersion(by, params['versionId'] ?? '', again === 'yes'));
});
