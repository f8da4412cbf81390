import { route } from '../../../../../../server/http/handler.ts';
import { viewOf } from '../../../../../../server/versions/view.ts';


export const GET = route(async (by, { request, params }) => viewOf(by, params['versionId'] ?? '', request.headers.get('if-none-match')));
