import { keeping } from '../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { fateOf } from '../../../../../../server/keeping/service.ts';

export const GET = serve(keeping.fate, (by, { versionId }) => fateOf(by, versionId));
