import { versions } from '../../../../../../contract/operations/versions.ts';
import { drawnBy } from '../../../../../../server/drawn/service.ts';
import { serve } from '../../../../../../server/http/serve.ts';

export const GET = serve(versions.drawnBy, (by, { versionId, query }) => drawnBy(by, versionId, query.gone));
