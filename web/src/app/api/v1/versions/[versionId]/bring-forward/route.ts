import { bringForwardSchema, versionSchema } from '../../../../../../contract/api.ts';
import { body, json, route } from '../../../../../../server/http/handler.ts';
import { bringForward } from '../../../../../../server/versions/service.ts';

export const POST = route(async (by, { request, params }) => {
  const { note } = await body(request, bringForwardSchema);
  return json(versionSchema, await bringForward(by, params['versionId'] ?? '', note), 201);
});
