import { door } from '../../../../contract/operations/door.ts';
import { answered, serve, serveAnyone } from '../../../../server/http/serve.ts';
import { config } from '../../../../server/config.ts';
import { readCookie, sessionCookie, SESSION_COOKIE } from '../../../../server/http/session-cookie.ts';
import { signIn, signOut } from '../../../../server/people/service.ts';

export const GET = serve(door.whoAmI, async (by) => ({ person: by }));

export const POST = serveAnyone(door.signIn, async ({ request, body: { email, password } }) => {
  const { token, person } = await signIn(email, password);
  const headers = { 'set-cookie': sessionCookie(token, config.sessionDays, request.headers) };
  return answered(door.signIn, { person }, { headers });
});

export const DELETE = serveAnyone(door.signOut, async ({ request }) => {
  const token = readCookie(request.headers.get('cookie'), SESSION_COOKIE);
  if (token) await signOut(token);
  return new Response(null, { status: 204, headers: { 'set-cookie': sessionCookie('', 0, request.headers) } });
});
