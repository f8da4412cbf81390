#!/usr/bin/env node
// npm test: everything a fresh machine needs, then every test, and one line of totals.
import { ensureChromium, ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
delete process.env.DATABASE_URL;
ensurePostgres();
ensureChromium();
process.exit(await runTypeScript('bin/run-tests.ts', process.argv.slice(2)));
