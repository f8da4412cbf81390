/** Who holds what. */
import { z } from 'zod';
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const checkouts = {
  standing: {
    method: 'get',
    path: '/files/{fileId}/standing',
    summary: 'Who holds a line of the file, who asks for it, who looks at it',
    query: desk.standingQuerySchema,
    answer: desk.standingSchema,
  },
  ask: {
    method: 'post',
    path: '/files/{fileId}/ask',
    summary: 'Ask the holder to give a file back',
    body: desk.reasonSchema,
    answer: desk.standingSchema,
  },
  takeOver: {
    method: 'post',
    path: '/files/{fileId}/take-over',
    summary: 'Take a check-out over (needs the right “take over”)',
    body: desk.reasonSchema,
    answer: desk.standingSchema,
  },
  list: {
    method: 'get',
    path: '/checkouts',
    summary: 'Who holds what',
    query: desk.heldQuerySchema,
    answer: z.array(desk.checkoutSchema),
  },
  take: {
    method: 'post',
    path: '/checkouts',
    summary: 'Check out several files: all, or none',
    body: desk.checkOutSchema,
    answer: z.array(desk.checkoutSchema),
    status: 201,
  },
  giveUp: {
    method: 'delete',
    path: '/checkouts',
    summary: 'Give check-outs up, without a version',
    body: desk.giveUpSchema,
    answer: z.object({ givenUp: z.number().int() }),
  },
} as const satisfies Operations;
