import { unlockViewSchema } from '../../../../../../../contract/api.ts';
import { asking, body } from '../../../../../../../server/http/handler.ts';
import { unlockedPage } from '../../../../../../../server/versions/unlocked.ts';

export const POST = asking(async (by, { request, params }) => {
  const { password, page } = await body(request, unlockViewSchema);
  return unlockedPage(by, params['versionId'] ?? '', password, page);
});
