import { references } from '../../../../../../contract/operations/references.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { referencesOfVersion } from '../../../../../../server/references/service.ts';

export const GET = serve(references.list, (by, { versionId }) => referencesOfVersion(by, versionId));
