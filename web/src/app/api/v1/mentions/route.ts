import { comments } from '../../../../contract/operations/comments.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listMentions } from '../../../../server/comments/service.ts';

export const GET = serve(comments.mentions, listMentions);
