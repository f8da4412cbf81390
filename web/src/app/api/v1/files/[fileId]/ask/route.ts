import { reasonSchema, standingSchema } from '../../../../../../contract/desk.ts';
import { askFor } from '../../../../../../server/checkouts/service.ts';
import { body, json, route } from '../../../../../../server/http/handler.ts';

export const POST = route(async (by, { request, params }) =>
  json(standingSchema, await askFor(by, params['fileId'] ?? '', (await body(request, reasonSchema)).reason)),
);
