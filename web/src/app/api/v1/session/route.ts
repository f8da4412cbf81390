import { door } from '../../../../contract/operations/door.ts';
import { answered, serve, serveAnyone } from '../../../../server/http/serve.ts';
import { config } from '../../../../server/config.ts';
import {
  BROWSER_COOKIE,
  browserCookie,
  readCookie,
  sessionCookie,
  SESSION_COOKIE,
} from '../../../../server/http/session-cookie.ts';
import { PEER_HEADER } from '../../../../server/ledger/origin.ts';
import { signIn, signOut } from '../../../../server/people/service.ts';

export const GET = serve(door.whoAmI, async (by) => ({ person: by }));

export const POST = serveAnyone(door.signIn, async ({ request, body: { email, password, code } }) => {
  const address = request.headers.get(PEER_HEADER) ?? '';
  const known = readCookie(request.headers.get('cookie'), BROWSER_COOKIE);
  const { token, person, browser } = await signIn(email, password, { address, browser: known }, code);
  const answer = answered(door.signIn, { person });
  answer.headers.append('set-cookie', sessionCookie(token, config.sessionDays, request.headers));
  if (browser !== undefined) answer.headers.append('set-cookie', browserCookie(browser, request.headers));
  return answer;
});

export const DELETE = serveAnyone(door.signOut, async ({ request }) => {
  const token = readCookie(request.headers.get('cookie'), SESSION_COOKIE);
  if (token) await signOut(token);
  return new Response(null, { status: 204, headers: { 'set-cookie': sessionCookie('', 0, request.headers) } });
});
