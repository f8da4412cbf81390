import { sessionSchema, signInSchema } from '../../../../contract/api.ts';
import { config } from '../../../../server/config.ts';
import { body, json, open, route } from '../../../../server/http/handler.ts';
import { readCookie, sessionCookie, SESSION_COOKIE } from '../../../../server/http/session-cookie.ts';
import { signIn, signOut } from '../../../../server/people/service.ts';

export const GET = route(async (by) => json(sessionSchema, { person: by }));

export const POST = open(async ({ request }) => {
  const { email, password } = await body(request, signInSchema);
  const { token, person } = await signIn(email, password);
  return json(sessionSchema, { person }, 200, {
    'set-cookie': sessionCookie(token, config.sessionDays, request.headers),
  });
});

export const DELETE = open(async ({ request }) => {
  const token = readCookie(request.headers.get('cookie'), SESSION_COOKIE);
  if (token) await signOut(token);
  return new Response(null, { status: 204, headers: { 'set-cookie': sessionCookie('', 0, request.headers) } });
});
