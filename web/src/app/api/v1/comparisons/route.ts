import { compareQuerySchema, comparisonResponseSchema } from '../../../../contract/api.ts';
import { json, query, route } from '../../../../server/http/handler.ts';
import { compareVersions } from '../../../../server/versions/comparisons.ts';

export const GET = route(async (by, { url }) => {
  const { a, b, tolerance, again } = query(url, compareQuerySchema);
  return json(comparisonResponseSchema, await compareVersions(by, a, b, { tolerance, again: again === 'yes' }));
});
