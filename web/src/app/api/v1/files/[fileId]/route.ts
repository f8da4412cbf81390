import { changeFileSchema, fileSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { changeFile, getFile } from '../../../../../server/projects/service.ts';


export const GET = route(async (by, { params }) => json(fileSchema, await getFile(by, params['fileId'] ?? '')));

export const PATCH = route(async (by, { request, params }) =>
  json(fileSchema, await changeFile(by, params['fileId'] ?? '', await body(request, changeFileSchema))));
