import { z } from 'zod';
import { folderSchema, newFolderSchema } from '../../../../../../contract/api.ts';
import { body, json, route } from '../../../../../../server/http/handler.ts';
import { foldersOf, makeFolder } from '../../../../../../server/projects/service.ts';

export const GET = route(async (by, { params }) =>
  json(z.array(folderSchema), await foldersOf(by, params['projectId'] ?? '')),
);

export const POST = route(async (by, { request, params }) => {
  const { name, parentId } = await body(request, newFolderSchema);
  return json(folderSchema, await makeFolder(by, params['projectId'] ?? '', parentId, name), 201);
});
