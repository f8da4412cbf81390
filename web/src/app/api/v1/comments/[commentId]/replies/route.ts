import { replySchema } from '../../../../../../contract/comments.ts';
import { reply } from '../../../../../../server/comments/service.ts';
import { body, route } from '../../../../../../server/http/handler.ts';

export const POST = route(async (by, { request, params }) => {
  await reply(by, params['commentId'] ?? '', (await body(request, replySchema)).body);
  return new Response(null, { status: 204 });
});
