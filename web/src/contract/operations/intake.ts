import { z } from 'zod';
import { attemptKey } from '../api.ts';
import * as shape from '../intake.ts';
import type { Operations } from '../operation.ts';

export const intake = {
  takeIn: {
    method: 'post',
    path: '/projects/{projectId}/intake',
    summary:
      'Take old copies in as histories: all of it, or nothing. `plan` is JSON (files, each with its copies, parents before what came from them); the copies follow in its order. `npx ovrel intake` makes such plans',
    form: z.object({
      plan: z.string().optional(),
      note: z.string().max(4000).optional().describe('Why'),
      key: attemptKey,
    }),
    answer: shape.takenInSchema,
    status: 201,
  },
} as const satisfies Operations;
