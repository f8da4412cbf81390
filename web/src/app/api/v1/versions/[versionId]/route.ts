import { versions } from '../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { getVersion } from '../../../../../server/versions/service.ts';
import { titleVersion } from '../../../../../server/versions/titles.ts';

export const GET = serve(versions.get, (by, { versionId, query }) => getVersion(by, versionId, query.again === 'yes'));

export const PATCH = serve(versions.title, (by, { versionId, body }) => titleVersion(by, versionId, body));
