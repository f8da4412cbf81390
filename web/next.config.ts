import { join } from 'node:path';
import type { NextConfig } from 'next';

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
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
    ]),
};

export default config;
