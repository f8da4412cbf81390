import { lines } from '../../../../../../contract/operations/lines.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { startLine } from '../../../../../../server/lines/service.ts';

export const POST = serve(lines.start, (by, { versionId, body }) => startLine(by, versionId, body.name, body.reason));
