import { comparisonResponseSchema, unlockComparisonSchema } from '../../../../../contract/api.ts';
import { asking, body, json } from '../../../../../server/http/handler.ts';
import { unlockedComparison } from '../../../../../server/versions/unlocked.ts';

export const POST = asking(async (by, { request }) =>
  json(comparisonResponseSchema, await unlockedComparison(by, await body(request, unlockComparisonSchema))),
);
