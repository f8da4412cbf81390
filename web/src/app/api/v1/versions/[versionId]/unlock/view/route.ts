import { versions } from '../../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../../server/http/serve.ts';
import { unlockedPage } from '../../../../../../../server/versions/unlocked.ts';

export const POST = serve(versions.unlockView, (by, { versionId, body: { password, page } }) =>
  unlockedPage(by, versionId, password, page),
);
