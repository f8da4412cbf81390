/** What changes while one looks. */
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const events = {
  follow: {
    method: 'get',
    path: '/events',
    summary: 'Server-sent events: what changes at a file or in a project',
    query: desk.eventsQuerySchema,
    bytes: 'text/event-stream',
  },
} as const satisfies Operations;
