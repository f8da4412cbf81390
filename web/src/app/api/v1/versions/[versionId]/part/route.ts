import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { partAt } from '../../../../../../server/versions/part.ts';

export const GET = serve(versions.part, (by, { versionId, query }) => partAt(by, versionId, query));
