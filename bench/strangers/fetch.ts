/** Real files and the programs that save them again, from the registries of Debian and npm; kept in a cache. */
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { installDebian } from '../../bin/lib/debian.mjs';
import { root } from '../../bin/lib/prepare.mjs';

export const cache = join(root, '.ovrel-strangers');

/** What a Debian package holds, unpacked; it is not installed. Undefined where it cannot be had. */
function unpacked(name: string): string | undefined {
  const folder = join(cache, 'debian', name);
  if (existsSync(folder)) return folder;
  mkdirSync(join(cache, 'packages'), { recursive: true });
  const got = spawnSync('apt-get', ['download', name], { cwd: join(cache, 'packages'), stdio: 'ignore' });
  const file = readdirSync(join(cache, 'packages')).find((one) => one.startsWith(`${name}_`));
  if (got.status !== 0 || !file) {
    console.log(`${name} cannot be had from Debian; it is left out.`);
    return undefined;
  }
  execFileSync('dpkg', ['-x', join(cache, 'packages', file), folder]);
  return folder;
}

/** A module of a package of npm that only this bench needs. */
export function moduleOf(name: string, version: string): unknown {
  const folder = join(cache, 'npm');
  const require = createRequire(join(folder, 'package.json'));
  if (!existsSync(join(folder, 'node_modules', name))) {
    mkdirSync(folder, { recursive: true });
    if (!existsSync(join(folder, 'package.json'))) writeFileSync(join(folder, 'package.json'), '{"private":true}');
    execFileSync('npm', ['install', '--no-audit', '--no-fund', `${name}@${version}`], { cwd: folder, stdio: 'ignore' });
  }
  return require(name) as unknown;
}

/** Whether a command of a Debian package is there; installs the package where it is not. */
export function hasCommand(command: string, debian: string): boolean {
  const isThere = (): boolean => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;
  return isThere() || (installDebian(debian) && isThere());
}

const filesIn = (folder: string, ending: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesIn(path, ending);
    return entry.isFile() && entry.name.endsWith(ending) ? [path] : [];
  });

const numberOf = (text: string): number => createHash('sha1').update(text).digest().readUInt32BE(0);

/** A third of all files is looked at only by `unseen`, which is run at the end of a piece of work. */
const THIRDS = 3;

/** Files of some packages in an order that says nothing of them, the same each time. */
export function sample(
  packages: readonly string[],
  ending: string,
  count: number,
  { unseen = false, bytes = 200_000 } = {},
): string[] {
  const each = Math.ceil(count / packages.length);
  return packages.flatMap((name) => {
    const folder = unpacked(name);
    if (!folder) return [];
    const nameOf = (path: string): string => path.slice(folder.length);
    return filesIn(folder, ending)
      .filter((path) => (numberOf(nameOf(path)) % THIRDS === 0) === unseen && statSync(path).size <= bytes)
      .sort((p, q) => numberOf(nameOf(p)) - numberOf(nameOf(q)))
      .slice(0, each);
  });
}
