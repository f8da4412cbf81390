/** Access tokens for programs. */
import { z } from 'zod';
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const tokens = {
  list: {
    method: 'get',
    path: '/tokens',
    summary: 'Your access tokens',
    answer: z.array(desk.tokenSchema),
    who: 'person',
  },
  make: {
    method: 'post',
    path: '/tokens',
    summary: 'Make an access token for a program',
    body: desk.newTokenSchema,
    answer: desk.madeTokenSchema,
    status: 201,
    who: 'person',
  },
  revoke: {
    method: 'delete',
    path: '/tokens/{tokenId}',
    summary: 'Revoke an access token',
    answer: desk.tokenSchema,
    who: 'person',
  },
} as const satisfies Operations;
