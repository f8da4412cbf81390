import { sending } from '../../../../contract/operations/sending.ts';
import { serve } from '../../../../server/http/serve.ts';
import { beginUpload } from '../../../../server/sending/service.ts';

export const POST = serve(sending.begin, (by, { body }) => beginUpload(by, body));
