#!/usr/bin/env node
// npm run bench [compare|accuracy|pictures|joins|viewer|archive|storage|lists|reading|checkin|browser|desk|load|heavy|strangers|kill]: speed and
// size, as ratios against a baseline of the same run.
import { ensureChromium, ensureDependencies, ensurePostgres, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
delete process.env.DATABASE_URL;
ensurePostgres();
ensureChromium();
process.exit(await runTypeScript('bench/main.ts', process.argv.slice(2)));
