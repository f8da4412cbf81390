import { fileSchema } from '../../../../../../contract/api.ts';
import { bringBackSchema } from '../../../../../../contract/desk.ts';
import { body, json, route } from '../../../../../../server/http/handler.ts';
import { bringBack } from '../../../../../../server/sets/deleting.ts';

export const POST = route(async (by, { request, params }) =>
  json(fileSchema, await bringBack(by, params['fileId'] ?? '', await body(request, bringBackSchema))),
);
