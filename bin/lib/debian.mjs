// Debian's packages. On a fresh machine another package manager is often at work in the first minutes: it is waited
// for.
import { spawnSync } from 'node:child_process';

/** Seconds that another package manager is waited for. */
const PATIENCE = 900;
/** Seconds between two attempts. */
const PAUSE = 5;

/**
 * What apt-get says, in English, where somebody else holds one of its locks. It has no exit code of its own for that.
 */
const LOCKED = /could not get lock|unable to (?:acquire|lock)|is another process using it/i;

const sleep = (seconds) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, seconds * 1000);

/** Installs a package; false where that failed. Says so while it waits for a lock. */
export function installDebian(name, { patience = PATIENCE, pause = PAUSE, say = console.log } = {}) {
  const until = Date.now() + patience * 1000;
  let said = false;
  for (;;) {
    const { status, stderr } = attempt(name, patience);
    if (status === 0) return true;
    if (!LOCKED.test(stderr) || Date.now() >= until) {
      process.stderr.write(stderr);
      return false;
    }
    if (!said) say('Another package manager is at work on this machine; waiting until it has ended …');
    said = true;
    sleep(pause);
  }
}

/** The lock of the packages themselves is waited for by apt-get; that of their lists is not. */
function attempt(name, patience) {
  const lock = `-o DPkg::Lock::Timeout=${patience}`;
  return spawnSync('sh', ['-c', `apt-get ${lock} update -qq && apt-get ${lock} install -y -qq ${name}`], {
    stdio: ['ignore', 'ignore', 'pipe'],
    encoding: 'utf8',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive', LC_ALL: 'C' },
  });
}
