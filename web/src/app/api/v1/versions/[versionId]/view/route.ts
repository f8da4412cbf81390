import { route } from '../../../../../../server/http/handler.ts';
import { pageQuerySchema } from '../../../../../../contract/api.ts';
import { viewOf } from '../../../../../../server/versions/view.ts';


export const GET = route(async (by, { request, params, url }) =>
  viewOf(by, params['versionId'] ?? '', request.headers.get('if-none-match'), pageQuerySchema.parse(Object.fromEntries(url.searchParams)).page));
