import { firstAdministratorSchema, sessionSchema } from '../../../../contract/api.ts';
import { config } from '../../../../server/config.ts';
import { body, json, open } from '../../../../server/http/handler.ts';
import { sessionCookie } from '../../../../server/http/session-cookie.ts';
import { makeFirstAdministrator } from '../../../../server/people/service.ts';

export const POST = open(async ({ request }) => {
  const { token, person } = await makeFirstAdministrator(await body(request, firstAdministratorSchema));
  return json(sessionSchema, { person }, 201, {
    'set-cookie': sessionCookie(token, config.sessionDays, request.headers),
  });
});
