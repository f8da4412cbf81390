import { events } from '../../../../contract/operations/events.ts';
import { serve } from '../../../../server/http/serve.ts';
import { eventStream } from '../../../../server/live/stream.ts';

/** Server-sent events: what changes at a file or in a project, while the answer is open. */
export const GET = serve(
  events.follow,
  async (by, { request, query }) =>
    new Response(await eventStream(by, query, request.signal), {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'no-cache, no-transform',
        'x-accel-buffering': 'no',
      },
    }),
);
