#!/usr/bin/env node
// npm start: everything a fresh machine needs, then the server. "--empty" leaves the demo project out.
import { ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
ensurePostgres();
process.exit(await runTypeScript('bin/serve.ts', process.argv.slice(2)));
