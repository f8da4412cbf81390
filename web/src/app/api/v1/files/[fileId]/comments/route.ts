import { commentSchema, commentsQuerySchema, newCommentSchema } from '../../../../../../contract/comments.ts';
import { addComment, listComments } from '../../../../../../server/comments/service.ts';
import { body, json, query, route } from '../../../../../../server/http/handler.ts';

export const GET = route(async (by, { url, params }) =>
  json(commentSchema.array(), await listComments(by, params['fileId'] ?? '', query(url, commentsQuerySchema).version)),
);

export const POST = route(async (by, { request, params }) =>
  json(commentSchema, await addComment(by, params['fileId'] ?? '', await body(request, newCommentSchema)), 201),
);
