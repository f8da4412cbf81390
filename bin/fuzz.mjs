#!/usr/bin/env node
// npm run fuzz api [requests] [first seed]: every operation with odd values, 100,000 by default.
// npm run fuzz [files a format] [first seed]: damaged files through every reader, 20,000 a format by default; seeds
// that find something are kept in fuzz/seeds.txt.
import { ensureDependencies, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
const [what, ...rest] = process.argv.slice(2);
process.exit(
  what === 'api'
    ? await runTypeScript('fuzz/api.ts', rest)
    : await runTypeScript('fuzz/main.ts', process.argv.slice(2)),
);
