/** Comments, answers, mentions. */
import { z } from 'zod';
import * as schemas from '../comments.ts';
import type { Operations } from '../operation.ts';

export const comments = {
  list: {
    method: 'get',
    path: '/files/{fileId}/comments',
    summary: 'Comments, with their places in one version',
    query: schemas.commentsQuerySchema,
    answer: z.array(schemas.commentSchema),
  },
  add: {
    method: 'post',
    path: '/files/{fileId}/comments',
    summary: 'Comment on a version, a part or a point of it',
    body: schemas.newCommentSchema,
    answer: schemas.commentSchema,
    status: 201,
  },
  resolve: {
    method: 'patch',
    path: '/comments/{commentId}',
    summary: 'Resolve a comment, or open it again',
    body: schemas.resolveSchema,
    status: 204,
  },
  reply: {
    method: 'post',
    path: '/comments/{commentId}/replies',
    summary: 'Answer a comment',
    body: schemas.replySchema,
    status: 204,
  },
  mentions: {
    method: 'get',
    path: '/mentions',
    summary: 'Open comments that mention you',
    answer: z.array(schemas.mentionSchema),
  },
} as const satisfies Operations;
