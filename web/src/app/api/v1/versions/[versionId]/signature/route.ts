import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { signatureFor } from '../../../../../../server/versions/delta-upload.ts';

export const GET = serve(versions.signature, (by, { versionId }) => signatureFor(by, versionId));
