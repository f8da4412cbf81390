/** Builds the web application once for each state of its sources. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';
import { Stop } from './stop.ts';

const sources = [
  'core/src',
  'web/src',
  'web/public',
  'web/next.config.ts',
  'web/package.json',
  'web/tsconfig.json',
  'tsconfig.base.json',
  'package-lock.json',
];

function* filesUnder(path: string): Generator<string> {
  if (!existsSync(path)) return;
  if (!statSync(path).isDirectory()) yield path;
  else for (const name of readdirSync(path).sort()) yield* filesUnder(join(path, name));
}

export function ensureBuild(): void {
  const hash = createHash('sha256');
  for (const source of sources)
    for (const file of filesUnder(join(root, source)))
      if (!/\.test\.tsx?$/.test(file)) hash.update(file.slice(root.length)).update(readFileSync(file));
  const state = hash.digest('hex');
  const stamp = join(root, 'web', '.next', 'OVREL_STATE');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === state) return;
  console.log('Building the application (about a minute) …');
  const run = spawnSync(process.execPath, [join(root, 'node_modules', 'next', 'dist', 'bin', 'next'), 'build'], {
    cwd: join(root, 'web'),
    encoding: 'utf8',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production', OVREL_ROOT: root },
  });
  if (run.status !== 0) throw new Stop(`The application could not be built.\n${run.stdout}${run.stderr}`);
  writeFileSync(stamp, state);
}
