import { comparisons } from '../../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { reportOf } from '../../../../../server/reports/service.ts';

export const GET = serve(comparisons.report, (by, { query: { a, b, as } }) => reportOf(by, a, b, as));
