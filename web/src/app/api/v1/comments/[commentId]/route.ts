import { resolveSchema } from '../../../../../contract/comments.ts';
import { resolve } from '../../../../../server/comments/service.ts';
import { body, route } from '../../../../../server/http/handler.ts';

export const PATCH = route(async (by, { request, params }) => {
  await resolve(by, params['commentId'] ?? '', (await body(request, resolveSchema)).resolved);
  return new Response(null, { status: 204 });
});
