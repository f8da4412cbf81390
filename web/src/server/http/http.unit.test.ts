import { attachment } from './disposition.ts';
import { parseRange } from './range.ts';
import { readCookie, sessionCookie } from './session-cookie.ts';

test.each([
  ['bytes=0-9', { start: 0, end: 10 }],
  ['bytes=90-', { start: 90, end: 100 }],
  ['bytes=-10', { start: 90, end: 100 }],
  ['bytes=0-999', { start: 0, end: 100 }],
  ['bytes=100-', 'unsatisfiable'],
  ['bytes=-0', 'unsatisfiable'],
  ['bytes=5-2', undefined],
  ['bytes=0-1,4-5', undefined],
  ['lines=1-2', undefined],
  [undefined, undefined],
])('range %s of 100 bytes', (header, expected) => expect(parseRange(header, 100)).toEqual(expected));

test('download names survive in full, with a plain one for old programs', () => {
  expect(attachment('Übersicht “A” v2.svg')).toBe(
    `attachment; filename="Ubersicht A v2.svg"; filename*=UTF-8''%C3%9Cbersicht%20%E2%80%9CA%E2%80%9D%20v2.svg`,
  );
  expect(attachment('a"b\r\n.svg')).not.toMatch(/[\r\n]/);
});

test('the session cookie is kept from scripts and other sites, and secure where it can be', () => {
  const from = (headers: Record<string, string>): string => sessionCookie('tok', 14, new Headers(headers));
  const cookie = from({ host: 'localhost:3000' });
  for (const word of ['HttpOnly', 'SameSite=Lax', 'Secure', 'Path=/']) expect(cookie).toContain(word);
  for (const host of ['127.0.0.1', '127.0.0.1:8080', '[::1]:3000']) expect(from({ host })).toContain('Secure');
  expect(from({ host: 'ovrel.lan', 'x-forwarded-proto': 'https' })).toContain('Secure');
  // Over plain HTTP in a local network a Secure cookie would never come back.
  for (const host of ['ovrel.lan:3000', '192.168.1.5:3000', 'localhost.elsewhere.example'])
    expect(from({ host })).not.toContain('Secure');
  expect(readCookie('a=1; ovrel_session=xyz; b=2', 'ovrel_session')).toBe('xyz');
});
