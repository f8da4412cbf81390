import { join } from 'node:path';
import type { NextConfig } from 'next';

const policy = [
  "default-src 'self'",
  "script-src 'self' 'unsafe-inline'",
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

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  turbopack: { root: join(import.meta.dirname, '..') },
  serverExternalPackages: [
    'pg',
    'pg-copy-streams',
    'piscina',
    '@node-rs/argon2',
    'busboy',
    'pino',
    'rate-limiter-flexible',
    '@resvg/resvg-js',
    'sharp',
    'pdf-lib',
    '@pdf-lib/fontkit',
    'write-excel-file',
  ],
  sassOptions: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] },
  headers: () =>
    Promise.resolve([
      {
        source: '/((?!api/).*)',
        headers: [
          { key: 'Content-Security-Policy', value: policy },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
    ]),
};

export default config;
