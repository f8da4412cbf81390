/** Files that were checked in together. */
import { z } from 'zod';
import { attemptKey } from '../api.ts';
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const sets = {
  list: {
    method: 'get',
    path: '/projects/{projectId}/sets',
    summary: 'Check-in sets, newest first',
    query: desk.setsQuerySchema,
    answer: z.array(desk.setSchema),
  },
  checkIn: {
    method: 'post',
    path: '/projects/{projectId}/sets',
    summary:
      'Check in several files under one note: all, or none. `plan` is a JSON list with an entry for each file; the files follow in its order',
    form: z.object({
      plan: z.string().optional(),
      note: z.string().max(4000).optional().describe('Why'),
      key: attemptKey,
    }),
    answer: desk.setResultSchema,
    status: 201,
  },
  count: {
    method: 'get',
    path: '/projects/{projectId}/sets/count',
    summary: 'How many check-in sets there are, and how many a filter leaves out',
    query: desk.setsQuerySchema,
    answer: desk.setCountSchema,
  },
  get: { method: 'get', path: '/sets/{setId}', summary: 'One check-in set', answer: desk.setSchema },
} as const satisfies Operations;
