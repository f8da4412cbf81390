import { comments } from '../../../../../contract/operations/comments.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { resolve } from '../../../../../server/comments/service.ts';

export const PATCH = serve(comments.resolve, (by, { commentId, body }) => resolve(by, commentId, body.resolved));
