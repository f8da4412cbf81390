/** Passwords that are refused, and what a second factor is made of. */
import { createHash } from 'node:crypto';
import { Secret, URI } from 'otpauth';
import { refuseCommon } from './common-passwords.ts';
import { describeSecret, newRecoveryCodes, newSecret } from './second-factor.ts';

const ines = { name: 'Ines Calloway', email: 'ines.calloway@quillmere.example' };
const taken = (password: string): Promise<boolean> =>
  refuseCommon(password, ines).then(
    () => true,
    (error: unknown) => {
      expect(error).toMatchObject({ status: 400, code: 'common-password' });
      return false;
    },
  );

test.each([
  '1234567890',
  'qwertyuiop',
  'Password123',
  'BASKETBALL',
  'aaaaaaaaaaaaaaa',
  '----------',
  'ines calloway',
  'Ines.Calloway1!',
  'inescalloway2026',
  'ines.calloway@quillmere.example',
])('%s is one of the first that somebody would try', async (password) => {
  expect(await taken(password)).toBe(false);
});

test.each([
  'gangway lowered at noon',
  'Ines likes the quay',
  'x7#Lq!92vTz0',
  '4815162342 and more',
  'ñandú über straße',
])('%s is taken', async (password) => {
  expect(await taken(password)).toBe(true);
});

test('a secret has 160 bits, and each is another one', () => {
  const secrets = Array.from({ length: 20 }, newSecret);
  expect(new Set(secrets).size).toBe(20);
  for (const secret of secrets) expect(Secret.fromBase32(secret).bytes).toHaveLength(20);
});

test('what an authenticator app is shown says whose it is, and for what', async () => {
  const secret = newSecret();
  const { uri, picture } = await describeSecret(ines.email, secret);
  const read = URI.parse(uri) as unknown as { issuer: string; label: string; digits: number; period: number };
  expect(read).toMatchObject({ issuer: 'Ovrel', label: ines.email, digits: 6, period: 30 });
  const png = Buffer.from(picture.replace('data:image/png;base64,', ''), 'base64');
  expect(png.subarray(1, 4).toString()).toBe('PNG');
});

test('recovery codes can be read aloud, are not alike, and are kept as hashes only', () => {
  const { codes, hashes } = newRecoveryCodes();
  expect(codes).toHaveLength(10);
  expect(new Set(codes).size).toBe(10);
  for (const code of codes) expect(code).toMatch(/^[a-km-np-z2-9]{6}-[a-km-np-z2-9]{6}$/);
  const first = createHash('sha256').update(codes[0]!.replace('-', '')).digest();
  expect(hashes[0]!.equals(first)).toBe(true);
});
