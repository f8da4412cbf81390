import { newNonce, policyWith } from './policy.ts';

const partOf = (policy: string, name: string): string | undefined =>
  policy.split('; ').find((part) => part.startsWith(`${name} `));

test('nonces are long, and each is another one', () => {
  const nonces = Array.from({ length: 50 }, newNonce);
  expect(new Set(nonces).size).toBe(50);
  for (const nonce of nonces) expect(Buffer.from(nonce, 'base64')).toHaveLength(18);
});

test('scripts run from here, or with the nonce: neither in attributes nor made of texts', () => {
  const policy = policyWith('abc');
  expect(partOf(policy, 'script-src')).toBe("script-src 'self' 'nonce-abc'");
  expect(policy).not.toMatch(/unsafe-eval|\*|http:|https:/);
});

test('nobody frames a page, sends its forms elsewhere, or loads from elsewhere', () => {
  const policy = policyWith('abc');
  expect(partOf(policy, 'frame-ancestors')).toBe("frame-ancestors 'none'");
  expect(partOf(policy, 'form-action')).toBe("form-action 'self'");
  expect(partOf(policy, 'default-src')).toBe("default-src 'self'");
  expect(partOf(policy, 'object-src')).toBe("object-src 'none'");
  expect(partOf(policy, 'base-uri')).toBe("base-uri 'self'");
});
