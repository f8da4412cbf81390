import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { differenceFor } from '../../../../../../server/versions/delta-upload.ts';

export const GET = serve(versions.difference, (by, { versionId, query }) => differenceFor(by, versionId, query.from));
