import { comments } from '../../../../../../contract/operations/comments.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { reply } from '../../../../../../server/comments/service.ts';

export const POST = serve(comments.reply, (by, { commentId, body }) => reply(by, commentId, body.body));
