import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { unlockedLook } from '../../../../../../server/versions/unlocked.ts';

export const POST = serve(versions.unlock, (by, { versionId, body }) => unlockedLook(by, versionId, body.password));
