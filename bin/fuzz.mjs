#!/usr/bin/env node
// npm run fuzz [files a format] [first seed]: damaged files through every reader, 20,000 a format by default; seeds that find something are kept in fuzz/seeds.txt.
import { ensureDependencies, runTypeScript } from './lib/prepare.mjs';

ensureDependencies();
process.exit(await runTypeScript('fuzz/main.ts', process.argv.slice(2)));
