import { lines } from '../../../../../../contract/operations/lines.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { branchFile } from '../../../../../../server/lines/service.ts';

export const POST = serve(lines.branchFile, (by, { versionId, body }) => branchFile(by, versionId, body));
