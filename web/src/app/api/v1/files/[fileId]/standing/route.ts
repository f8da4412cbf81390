import { standingSchema } from '../../../../../../contract/desk.ts';
import { standingOf } from '../../../../../../server/checkouts/service.ts';
import { json, route } from '../../../../../../server/http/handler.ts';

export const GET = route(async (by, { params }) => json(standingSchema, await standingOf(by, params['fileId'] ?? '')));
