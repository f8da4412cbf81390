import { setSchema } from '../../../../../contract/desk.ts';
import { json, route } from '../../../../../server/http/handler.ts';
import { getSet } from '../../../../../server/sets/sets.ts';

export const GET = route(async (by, { params }) => json(setSchema, await getSet(by, params['setId'] ?? '')));
