import { keeping } from '../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { goingOfFile } from '../../../../../../server/keeping/service.ts';

export const GET = serve(keeping.ofFile, (by, { fileId }) => goingOfFile(by, fileId));
