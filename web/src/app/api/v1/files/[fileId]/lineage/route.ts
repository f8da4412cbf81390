import { lines } from '../../../../../../contract/operations/lines.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { lineage } from '../../../../../../server/lines/service.ts';

export const GET = serve(lines.lineage, (by, { fileId }) => lineage(by, fileId));
