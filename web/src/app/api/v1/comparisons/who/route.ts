import { compareQuerySchema, whoSchema } from '../../../../../contract/api.ts';
import { json, query, route } from '../../../../../server/http/handler.ts';
import { whoChanged } from '../../../../../server/versions/who.ts';

export const GET = route(async (by, { url }) => {
  const { a, b, tolerance } = query(url, compareQuerySchema);
  return json(whoSchema, await whoChanged(by, a, b, tolerance));
});
