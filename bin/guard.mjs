#!/usr/bin/env node
// npm run guard [short] [part ...]: kills, flipped bits, races, roles, leaks, odd requests, damaged and hostile files, as one table.
import { ensureChromium, ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
delete process.env.DATABASE_URL;
ensurePostgres();
ensureChromium();
process.exit(await runTypeScript('bin/run-guard.ts', process.argv.slice(2)));
