import { contentsSchema } from '../../../../../../contract/api.ts';
import { checkId, json, route } from '../../../../../../server/http/handler.ts';
import { contentsOf } from '../../../../../../server/projects/service.ts';

export const GET = route(async (by, { params, url }) => {
  const folder = url.searchParams.get('folder');
  if (folder) checkId('folderId', folder);
  return json(contentsSchema, await contentsOf(by, params['projectId'] ?? '', folder));
});
