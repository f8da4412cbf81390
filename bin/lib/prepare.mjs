// What a fresh machine needs before anything else can run. Plain JavaScript for the Node that is there.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { installDebian } from './debian.mjs';

export const root = fileURLToPath(new URL('../..', import.meta.url));
const node24 = join(root, 'node_modules', '.bin', 'node');

/** Ends the program with one sentence. */
function giveUp(sentence) {
  console.error(sentence);
  process.exit(1);
}

/** npm packages, as the lock file has them; skipped where nothing changed since the last time. */
export function ensureDependencies() {
  const stamp = join(root, 'node_modules', '.ovrel-lock');
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock && existsSync(node24)) return;
  console.log('Installing npm packages …');
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
  });
  if (run.status !== 0) giveUp('The npm packages could not be installed. Run "npm ci" to see why.');
  writeFileSync(stamp, lock);
}

/** Folder of PostgreSQL's programs, newest version first; undefined where it is not installed. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).filter((v) => existsSync(join(base, v, 'bin', 'initdb'))) : [];
  versions.sort((a, b) => Number(b) - Number(a));
  return versions[0] && join(base, versions[0], 'bin');
}

/** Debian packages that are missing are installed by root, or asked for in one sentence. */
function ensureDebian(name, present) {
  if (present()) return;
  const command = `apt-get update && apt-get install -y ${name}`;
  if (process.getuid?.() !== 0)
    giveUp(`Ovrel needs Debian's package "${name}". Install it with: sudo sh -c '${command}'`);
  console.log(`Installing Debian's package ${name} …`);
  if (!installDebian(name) || !present())
    giveUp(`Debian's package "${name}" could not be installed. Run this to see why: ${command}`);
}

export function ensurePostgres() {
  if (process.env.DATABASE_URL && !process.env.OVREL_OWN_CLUSTER) return;
  if (!postgresPrograms() && process.getuid?.() === 0) {
    // Ovrel makes a cluster of its own; the package's default one would only take memory.
    mkdirSync('/etc/postgresql-common/createcluster.d', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.d/ovrel.conf', 'create_main_cluster = false\n');
  }
  ensureDebian('postgresql', () => Boolean(postgresPrograms()));
}

export const ensureChromium = () => ensureDebian('chromium', () => existsSync('/usr/bin/chromium'));

/**
 * Hands over to a TypeScript program under the project's own Node; gives its exit code. Signals reach the child by
 * its process group.
 */
export function runTypeScript(script, argv, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(node24, [join(root, script), ...argv], {
      stdio: 'inherit',
      cwd: root,
      env: { ...process.env, ...env, OVREL_ROOT: root },
    });
    // Ctrl-C reaches the whole foreground group; the child decides when to end.
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
      process.on(signal, () => signal !== 'SIGINT' && child.kill(signal));
    child.on('close', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}
