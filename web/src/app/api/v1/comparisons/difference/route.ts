import { pairQuerySchema } from '../../../../../contract/api.ts';
import { query, route } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { differenceMap } from '../../../../../server/versions/comparisons.ts';

export const GET = route(async (by, { url }) => {
  const { a, b } = query(url, pairQuerySchema);
  const map = await differenceMap(by, a, b);
  if (!map) throw new Problem(415, 'no-picture', 'These versions were not compared as pictures.');
  return new Response(Uint8Array.from(map), {
    headers: {
      'content-type': 'application/octet-stream',
      'cache-control': 'private, max-age=86400',
      'x-content-type-options': 'nosniff',
    },
  });
});
