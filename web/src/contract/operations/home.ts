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
  visit: {
    method: 'post',
    path: '/home/visit',
    summary: 'You look at what is new: at your next visit, half an hour later at the soonest, it is told no more',
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
