import { sending } from '../../../../../contract/operations/sending.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { lookAtUpload } from '../../../../../server/sending/service.ts';

export const GET = serve(sending.look, (by, { uploadId }) => lookAtUpload(by, uploadId));
