import { watched } from '../../../../../../contract/operations/watched.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { lookNow } from '../../../../../../server/watched/service.ts';

export const POST = serve(watched.look, (by, { watchedId }) => lookNow(by, watchedId));
