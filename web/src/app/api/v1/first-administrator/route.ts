import { door } from '../../../../contract/operations/door.ts';
import { answered, serveAnyone } from '../../../../server/http/serve.ts';
import { config } from '../../../../server/config.ts';
import { sessionCookie } from '../../../../server/http/session-cookie.ts';
import { makeFirstAdministrator } from '../../../../server/people/service.ts';

export const POST = serveAnyone(door.makeFirstAdministrator, async ({ request, body }) => {
  const { token, person } = await makeFirstAdministrator(body);
  const headers = { 'set-cookie': sessionCookie(token, config.sessionDays, request.headers) };
  return answered(door.makeFirstAdministrator, { person }, { headers });
});
