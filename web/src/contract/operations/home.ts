/** The first page, and following files. */
import * as shape from '../home.ts';
import type { Operations } from '../operation.ts';

export const home = {
  get: {
    method: 'get',
    path: '/home',
    summary: 'What happened since you were last here, what waits for you, and your projects',
    answer: shape.homeSchema,
  },
  follows: {
    method: 'get',
    path: '/files/{fileId}/follow',
    summary: 'Whether you follow a file; by itself you follow those that you worked on or commented',
    answer: shape.followSchema,
  },
  follow: {
    method: 'put',
    path: '/files/{fileId}/follow',
    summary: 'Follow a file, or do not',
    body: shape.followSchema,
    answer: shape.followSchema,
  },
} as const satisfies Operations;
