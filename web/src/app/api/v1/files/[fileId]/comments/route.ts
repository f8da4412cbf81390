import { comments } from '../../../../../../contract/operations/comments.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { addComment, listComments } from '../../../../../../server/comments/service.ts';

export const GET = serve(comments.list, (by, { fileId, query }) => listComments(by, fileId, query.version));

export const POST = serve(comments.add, (by, { fileId, body }) => addComment(by, fileId, body));
