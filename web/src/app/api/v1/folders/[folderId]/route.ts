import { changeFolderSchema, folderSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { changeFolder } from '../../../../../server/projects/service.ts';


export const PATCH = route(async (by, { request, params }) =>
  json(folderSchema, await changeFolder(by, params['folderId'] ?? '', await body(request, changeFolderSchema))));
