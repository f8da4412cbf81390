import { referencesSchema } from '../../../../../../contract/desk.ts';
import { json, route } from '../../../../../../server/http/handler.ts';
import { referencesOfVersion } from '../../../../../../server/references/service.ts';

export const GET = route(async (by, { params }) =>
  json(referencesSchema, await referencesOfVersion(by, params['versionId'] ?? '')),
);
