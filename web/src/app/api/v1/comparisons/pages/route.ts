import { pageListSchema, pairQuerySchema } from '../../../../../contract/api.ts';
import { json, query, route } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { changedPages } from '../../../../../server/versions/facts.ts';

export const GET = route(async (by, { url }) => {
  const { a, b } = query(url, pairQuerySchema), pages = await changedPages(by, a, b);
  if (!pages) throw new Problem(415, 'no-pages', 'Only two PDF documents that can be read have pages that are paired.');
  return json(pageListSchema, { pages });
});
