import { watched } from '../../../../contract/operations/watched.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listWatched, makeWatched } from '../../../../server/watched/service.ts';

export const GET = serve(watched.list, (by) => listWatched(by));

export const POST = serve(watched.make, (by, { body }) => makeWatched(by, body));
