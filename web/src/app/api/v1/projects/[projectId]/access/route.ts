import { accessQuerySchema, accessSchema, setAccessSchema } from '../../../../../../contract/access.ts';
import { body, json, query, route } from '../../../../../../server/http/handler.ts';
import { listAccess, setAccess } from '../../../../../../server/people/granting.ts';

export const GET = route(async (by, { url, params }) =>
  json(
    accessSchema,
    await listAccess(by, {
      projectId: params['projectId'] ?? '',
      folderId: query(url, accessQuerySchema).folder ?? null,
    }),
  ),
);

export const PUT = route(async (by, { request, params }) => {
  const { folderId, personId, rights } = await body(request, setAccessSchema);
  return json(accessSchema, await setAccess(by, { projectId: params['projectId'] ?? '', folderId }, personId, rights));
});
