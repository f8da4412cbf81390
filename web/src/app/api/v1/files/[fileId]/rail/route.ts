import { railSchema } from '../../../../../../contract/api.ts';
import { json, route } from '../../../../../../server/http/handler.ts';
import { railOf } from '../../../../../../server/versions/service.ts';

export const GET = route(async (by, { params }) => json(railSchema, await railOf(by, params['fileId'] ?? '')));
