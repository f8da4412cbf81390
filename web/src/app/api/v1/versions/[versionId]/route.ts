import { versions } from '../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { getVersion } from '../../../../../server/versions/service.ts';

export const GET = serve(versions.get, (by, { versionId, query }) => getVersion(by, versionId, query.again === 'yes'));
