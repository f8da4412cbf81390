import { comparisons } from '../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../server/http/serve.ts';
import { compareVersions } from '../../../../server/versions/comparisons.ts';

export const GET = serve(comparisons.get, (by, { query: { a, b, tolerance, again } }) =>
  compareVersions(by, a, b, { tolerance, again: again === 'yes' }),
);
