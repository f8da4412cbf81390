#!/usr/bin/env node
// npm run screenshots: the pictures in docs/screenshots, from the demo data.
import { ensureChromium, ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
delete process.env.DATABASE_URL;
ensurePostgres();
ensureChromium();
process.exit(await runTypeScript('bin/take-screenshots.ts', []));
