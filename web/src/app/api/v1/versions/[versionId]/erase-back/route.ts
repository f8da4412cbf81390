import { erasing } from '../../../../../../contract/operations/erasing.ts';
import { eraseBack, erasePreview } from '../../../../../../server/erasing/service.ts';
import { serve } from '../../../../../../server/http/serve.ts';

export const GET = serve(erasing.preview, (by, { versionId }) => erasePreview(by, versionId));

export const POST = serve(erasing.erase, (by, { versionId, body }) => eraseBack(by, versionId, body));
