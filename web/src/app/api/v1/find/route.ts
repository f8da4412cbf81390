import { findQuerySchema, foundSchema } from '../../../../contract/api.ts';
import { json, query, route } from '../../../../server/http/handler.ts';
import { findFiles } from '../../../../server/projects/service.ts';

export const GET = route(async (by, { url }) => json(foundSchema, await findFiles(by, query(url, findQuerySchema).q)));
