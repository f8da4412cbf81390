#!/usr/bin/env node
// npx ovrel-admin backup FILE | restore FILE | verify FILE: the whole of an Ovrel as one file, and back.
import { ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
ensurePostgres();
process.exit(await runTypeScript('bin/admin.ts', process.argv.slice(2), { OVREL_CWD: process.cwd() }));
