/** The cookie that carries a session. Scripts cannot read it; other sites cannot send it with a change. */
export const SESSION_COOKIE = 'ovrel_session';

/** Browsers take Secure cookies over plain HTTP from the machine itself; elsewhere HTTPS decides. */
const mayBeSecure = (url: URL, forwardedProto: string | null): boolean =>
  forwardedProto === 'https' || url.protocol === 'https:' || ['localhost', '127.0.0.1', '[::1]'].includes(url.hostname);

export function sessionCookie(token: string, days: number, url: URL, forwardedProto: string | null): string {
  const secure = mayBeSecure(url, forwardedProto) ? '; Secure' : '';
  return `${SESSION_COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${days * 86_400}${secure}`;
}

export function readCookie(header: string | null | undefined, name: string): string | undefined {
  return header?.split(/;\s*/).find((c) => c.startsWith(`${name}=`))?.slice(name.length + 1);
}
