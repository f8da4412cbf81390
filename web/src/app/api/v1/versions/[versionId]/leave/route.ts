import { saving } from '../../../../../../contract/operations/saving.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { leave } from '../../../../../../server/saving/service.ts';

export const POST = serve(saving.leave, (by, { versionId, body }) => leave(by, versionId, body.note));
