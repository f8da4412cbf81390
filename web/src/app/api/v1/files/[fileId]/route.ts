import { deleteSchema } from '../../../../../contract/desk.ts';
import { changeFileSchema, fileSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { deleteFile } from '../../../../../server/sets/deleting.ts';
import { changeFile, getFile } from '../../../../../server/projects/service.ts';

export const GET = route(async (by, { params }) => json(fileSchema, await getFile(by, params['fileId'] ?? '')));

export const PATCH = route(async (by, { request, params }) =>
  json(fileSchema, await changeFile(by, params['fileId'] ?? '', await body(request, changeFileSchema))),
);

export const DELETE = route(async (by, { request, params }) => {
  await deleteFile(by, params['fileId'] ?? '', (await body(request, deleteSchema)).reason);
  return new Response(null, { status: 204 });
});
