/** What a page may load and run (Content Security Policy, level 3). */
import { randomBytes } from 'node:crypto';

/** For one answer: scripts in the page run only with its nonce, which nobody can guess. */
export const newNonce = (): string => randomBytes(18).toString('base64');

export const policyWith = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    // React writes styles into attributes, for which there are no nonces.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
