import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { installDebian } from './debian.mjs';

/** An apt-get of our own, which fails the first times with a message. */
function fakeApt(failures: number, message: string): { calls: () => string[] } {
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-apt-'));
  const log = join(folder, 'log');
  writeFileSync(log, '');
  writeFileSync(
    join(folder, 'apt-get'),
    `#!/bin/sh
echo "$@" >> ${log}
if [ "$(wc -l < ${log})" -le ${failures} ]; then echo "${message}" >&2; exit 100; fi
`,
  );
  chmodSync(join(folder, 'apt-get'), 0o755);
  process.env['PATH'] = `${folder}:${path}`;
  return { calls: () => readFileSync(log, 'utf8').trim().split('\n') };
}

const path = process.env['PATH'] ?? '';
afterEach(() => {
  process.env['PATH'] = path;
});
const LOCKED = 'E: Could not get lock /var/lib/apt/lists/lock. It is held by process 7 (unattended-upgr)';

test('a lock that somebody else holds is waited for, and that is said once', () => {
  const apt = fakeApt(2, LOCKED);
  const said: string[] = [];
  expect(installDebian('chromium', { pause: 0.01, say: (text: string) => said.push(text) })).toBe(true);
  expect(said).toEqual([expect.stringMatching(/Another package manager is at work/)]);
  expect(apt.calls().at(-1)).toMatch(/DPkg::Lock::Timeout=\d+ install -y -qq chromium$/);
});

test('another failure is no reason to wait', () => {
  const apt = fakeApt(9, 'E: Unable to locate package chromium');
  expect(installDebian('chromium', { pause: 0.01, say: () => undefined })).toBe(false);
  expect(apt.calls()).toHaveLength(1);
});

test('nobody waits for ever', () => {
  fakeApt(999, LOCKED);
  expect(installDebian('chromium', { patience: 0.1, pause: 0.02, say: () => undefined })).toBe(false);
});
