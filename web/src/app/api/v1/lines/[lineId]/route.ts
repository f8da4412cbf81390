import { lines } from '../../../../../contract/operations/lines.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { changeLine } from '../../../../../server/lines/service.ts';

export const PATCH = serve(lines.change, (by, { lineId, body }) => changeLine(by, lineId, body));
