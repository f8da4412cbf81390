import { reportQuerySchema } from '../../../../../contract/report.ts';
import { query, route } from '../../../../../server/http/handler.ts';
import { reportOf } from '../../../../../server/reports/service.ts';

export const GET = route(async (by, { url }) => {
  const { a, b, as } = query(url, reportQuerySchema);
  return reportOf(by, a, b, as);
});
