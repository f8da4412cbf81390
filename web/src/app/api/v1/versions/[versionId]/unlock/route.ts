import { unlockSchema } from '../../../../../../contract/api.ts';
import { lookSchema } from '../../../../../../contract/look.ts';
import { asking, body, json } from '../../../../../../server/http/handler.ts';
import { unlockedLook } from '../../../../../../server/versions/unlocked.ts';

export const POST = asking(async (by, { request, params }) => {
  const { password } = await body(request, unlockSchema);
  return json(lookSchema, await unlockedLook(by, params['versionId'] ?? '', password));
});
