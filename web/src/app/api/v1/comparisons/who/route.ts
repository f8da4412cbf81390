import { comparisons } from '../../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { whoChanged } from '../../../../../server/versions/who.ts';

export const GET = serve(comparisons.who, (by, { query: { a, b, tolerance } }) => whoChanged(by, a, b, tolerance));
