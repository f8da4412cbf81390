import { comparisons } from '../../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { Problem } from '../../../../../server/problem.ts';
import { differenceMap } from '../../../../../server/versions/comparisons.ts';

export const GET = serve(comparisons.difference, async (by, { query: { a, b } }) => {
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
