import { execFile } from 'node:child_process';
import { appendFileSync, copyFileSync, existsSync, mkdtempSync, openSync, rmSync, statSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { test as base, expect } from '@playwright/test';
import pg from 'pg';
import { startCluster } from '../bin/lib/cluster.ts';

const root = join(import.meta.dirname, '..');

/** Runs ovrel-admin as a person does; gives what it said and its exit code. */
const admin = (data: string, ...argv: string[]): Promise<{ code: number; said: string }> =>
  new Promise((done) => {
    const { DATABASE_URL: _, ...env } = process.env;
    execFile(
      'node',
      [join(root, 'bin', 'ovrel-admin.mjs'), ...argv],
      { env: { ...env, OVREL_DATA: data }, cwd: root },
      (error, stdout, stderr) => done({ code: error ? Number(error.code ?? 1) : 0, said: stdout + stderr }),
    );
  });

/** Turns a byte over in the largest piece that an Ovrel at rest has stored, as a disk might. */
async function spoilOneChunk(data: string): Promise<void> {
  const cluster = await startCluster(data);
  const client = new pg.Client({ connectionString: cluster.url('ovrel') });
  await client.connect();
  await client.query(`
    update chunk set data = set_byte(data, length(data) / 2, get_byte(data, length(data) / 2) # 255)
    where id = (select id from chunk order by stored desc limit 1)`);
  await client.end();
  cluster.stop();
}

base('a running Ovrel is backed up, and restored into an empty one with every version read back', async () => {
  const data = process.env['OVREL_E2E_DATA']!;
  const folder = mkdtempSync(join(data, 'backup-'));
  const file = join(folder, 'landing.ovrel');
  const fresh = `${data}-restored`;
  rmSync(fresh, { recursive: true, force: true });
  try {
    expect(await admin(data, 'backup', file)).toMatchObject({
      code: 0,
      said: expect.stringMatching(/\d+ versions .* are in /),
    });
    expect(statSync(file).mode & 0o077).toBe(0);
    expect(await admin(data, 'backup', file)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/is there already.*nothing was overwritten/),
    });
    expect(await admin(data, 'backup', join(folder, 'nowhere', 'x'))).toMatchObject({
      code: 1,
      said: expect.stringMatching(/can't be written/),
    });
    expect(await admin(data, 'verify', file)).toMatchObject({
      code: 0,
      said: expect.stringMatching(/is whole: \d+ versions/),
    });
    expect(await admin(data, 'restore', file)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/Ovrel is running/),
    });

    const damaged = join(folder, 'damaged.ovrel');
    copyFileSync(file, damaged);
    writeSync(openSync(damaged, 'r+'), 'x', Math.floor(statSync(file).size / 2));
    expect(await admin(fresh, 'restore', damaged)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/is damaged: database\.dump/),
    });
    expect(await admin(fresh, 'restore', join(root, 'README.md'))).toMatchObject({
      code: 1,
      said: expect.stringMatching(/not a whole backup/),
    });
    expect(existsSync(fresh)).toBe(false);

    const restored = await admin(fresh, 'restore', file);
    expect(restored).toMatchObject({
      code: 0,
      said: expect.stringMatching(/were restored, and every one was read back and matches its hash/),
    });
    expect(await admin(fresh, 'restore', file)).toMatchObject({ code: 1, said: expect.stringMatching(/not empty/) });
    // The ledger came with it, and holds there as it does here.
    for (const of of [data, fresh])
      expect(await admin(of, 'verify-ledger')).toMatchObject({
        code: 0,
        said: expect.stringMatching(
          /^The ledger holds: [\d,]+ entries, no gap, every seal right\.\n[\d,]+ versions are what it says\.\nThe last seal is [0-9a-f]{64}$/m,
        ),
      });
    // An anchor that was put before the backup holds for what was restored from it, and not for another Ovrel's.
    const anchors = join(folder, 'anchors');
    expect(await admin(fresh, 'anchor', anchors)).toMatchObject({ code: 0 });
    expect(await admin(data, 'verify-ledger', '--anchor', anchors)).toMatchObject({
      code: 0,
      said: expect.stringMatching(/It bears out 1 anchor\./),
    });
    appendFileSync(anchors, `${JSON.stringify({ at: new Date().toISOString(), entries: 3, seal: 'f'.repeat(64) })}\n`);
    expect(await admin(data, 'verify-ledger', '--anchor', anchors)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/not the one that was anchored .* with 3 entries\. It was cut off or written anew/),
    });
    // A stored piece goes bad: the backup says which versions that hurts, and is made all the same.
    await spoilOneChunk(fresh);
    const spoilt = join(folder, 'spoilt.ovrel');
    const warned = await admin(fresh, 'backup', spoilt);
    expect(warned).toMatchObject({
      code: 3,
      said: expect.stringMatching(/damaged, and cannot be read back:\n {2}[^:]+: \S+ v\d+/),
    });
    const hurt = [...warned.said.matchAll(/^ {2}[^:]+: \S+ v\d+/gm)].map(([line]) => line);
    const verified = await admin(data, 'verify', spoilt);
    expect(verified.code).toBe(3);
    for (const line of hurt) expect(verified.said).toContain(line);
    // All that is whole is restored and stays.
    rmSync(fresh, { recursive: true, force: true });
    const partly = await admin(fresh, 'restore', spoilt);
    expect(partly.code).toBe(3);
    const [, whole = '', all = ''] = /^(\d+) of (\d+) versions were restored/m.exec(partly.said) ?? [];
    expect(Number(all) - Number(whole)).toBe(hurt.length);
    for (const line of hurt) expect(partly.said).toContain(line);
    expect(await admin(fresh, 'restore', file)).toMatchObject({ code: 1, said: expect.stringMatching(/not empty/) });

    // What was restored from a whole one can be backed up again, with the same versions.
    rmSync(fresh, { recursive: true, force: true });
    expect((await admin(fresh, 'restore', file)).code).toBe(0);
    const again = await admin(fresh, 'backup', join(folder, 'again.ovrel'));
    expect(/(\d+) versions/.exec(again.said)?.[1]).toBe(/(\d+) versions/.exec(restored.said)?.[1]);
  } finally {
    rmSync(folder, { recursive: true, force: true });
    rmSync(fresh, { recursive: true, force: true });
  }
});
