import { eventsQuerySchema } from '../../../../contract/desk.ts';
import { query, route } from '../../../../server/http/handler.ts';
import { eventStream } from '../../../../server/live/stream.ts';

/** Server-sent events: what changes at a file or in a project, while the answer is open. */
export const GET = route(
  async (by, { request, url }) =>
    new Response(await eventStream(by, query(url, eventsQuerySchema), request.signal), {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'no-cache, no-transform',
        'x-accel-buffering': 'no',
      },
    }),
);
