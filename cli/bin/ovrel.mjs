#!/usr/bin/env node
// Starts the command line under the Node that the project ships, which runs TypeScript as it is.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const main = fileURLToPath(new URL('../src/main.ts', import.meta.url));
if (Number(process.versions.node.split('.')[0]) >= 24) {
  await import(main);
} else {
  const node = fileURLToPath(new URL('../../node_modules/.bin/node', import.meta.url));
  if (!existsSync(node)) {
    console.error('ovrel needs Node 24 or newer. Run "npm ci" in the Ovrel folder, which brings it.');
    process.exit(2);
  }
  const run = spawn(node, [main, ...process.argv.slice(2)], { stdio: 'inherit' });
  // Whoever ends this one means the other.
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => run.kill(signal));
  run.on('exit', (code) => process.exit(code ?? 2));
}
