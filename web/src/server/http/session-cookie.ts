import { parseCookie, stringifySetCookie } from 'cookie';

/** The cookie that carries a session. Scripts cannot read it; other sites cannot send it with a change. */
export const SESSION_COOKIE = 'ovrel_session';

/** Browsers take Secure cookies over plain HTTP from the machine itself; elsewhere HTTPS decides. */
const mayBeSecure = (headers: Headers): boolean =>
  headers.get('x-forwarded-proto') === 'https' ||
  /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(headers.get('host') ?? '');

/** By this a browser is known again, after its session has ended. */
export const BROWSER_COOKIE = 'ovrel_browser';
const BROWSER_DAYS = 365;

/**
 * `headers` are those of the request: the address that the browser used stands in them, not in the server's own URL.
 */
export const sessionCookie = (token: string, days: number, headers: Headers): string =>
  cookie(SESSION_COOKIE, token, days, headers);

export const browserCookie = (token: string, headers: Headers): string =>
  cookie(BROWSER_COOKIE, token, BROWSER_DAYS, headers);

const cookie = (name: string, value: string, days: number, headers: Headers): string =>
  stringifySetCookie(name, value, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    maxAge: days * 86_400,
    secure: mayBeSecure(headers),
  });

export const readCookie = (header: string | null | undefined, name: string): string | undefined =>
  parseCookie(header ?? '')[name];
