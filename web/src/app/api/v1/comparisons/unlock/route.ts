import { comparisons } from '../../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { unlockedComparison } from '../../../../../server/versions/unlocked.ts';

export const POST = serve(comparisons.unlock, (by, { body }) => unlockedComparison(by, body));
