/**
 * Kill tests: while versions are checked in, packed and read, the web process, a worker and PostgreSQL are killed in
 * turn (SIGKILL) at random moments. Afterwards every acknowledged version has to be there with its bytes, no version
 * may be half there, and whatever was left over has to be collected. `npm run bench kill [rounds]`.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { loadDemo } from '../demo/load.ts';
import { ensureBuild } from '../bin/lib/build.ts';
import { dataFolder, freePort, startCluster, type Cluster } from '../bin/lib/cluster.ts';
import { ensureDatabase, migrate } from '../bin/lib/database.ts';
import { root } from '../bin/lib/prepare.mjs';
import { line } from './measure.ts';
import { signInTo, type Target } from './target.ts';

interface Kept {
  readonly id: string;
  readonly sha256: string;
}

interface Answer {
  readonly made: boolean;
  readonly version: Kept;
}

/** True where nothing was lost. */
export async function benchKill(rounds: number): Promise<boolean> {
  const data = dataFolder(undefined, '.ovrel-kill');
  const databasePort = await freePort();
  const port = await freePort();
  rmSync(data, { recursive: true, force: true });
  let cluster: Cluster = await startCluster(data, databasePort);
  const url = cluster.url('ovrel');
  await ensureDatabase(cluster.url('postgres'), 'ovrel');
  await migrate(url);
  Object.assign(process.env, { DATABASE_URL: url, OVREL_ROOT: root });
  await loadDemo(true);
  ensureBuild();
  const { db, closePools } = await import('../web/src/server/db/pool.ts');
  const { readContent } = await import('../web/src/server/store/reader.ts');
  const { collect } = await import('../web/src/server/store/collect.ts');
  const { scrub } = await import('../web/src/server/store/scrub.ts');
  // A process that ends by itself is started anew, as npm start does with workers, and counted.
  const ends = { web: 0, worker: 0 };
  const start = (which: 'web' | 'worker'): ChildProcess =>
    spawn(process.execPath, [join(root, 'web', which === 'web' ? 'server.ts' : 'worker.ts')], {
      cwd: join(root, 'web'),
      stdio: ['ignore', 'ignore', 'ignore'],
      detached: true,
      env: {
        ...process.env,
        NODE_ENV: 'production',
        PORT: String(port),
        OVREL_LOG: 'silent',
        OVREL_GRACE_MINUTES: '1',
      },
    });
  const processes = { web: start('web'), worker: start('worker') };
  const kill = (which: 'web' | 'worker'): void => {
    const child = processes[which];
    if (child.exitCode !== null) ends[which]++;
    else process.kill(-(child.pid ?? 0), 'SIGKILL');
  };
  const revive = (): void => {
    for (const which of ['web', 'worker'] as const) {
      if (processes[which].exitCode === null) continue;
      ends[which]++;
      processes[which] = start(which);
    }
  };
  const address = `http://localhost:${port}`;
  let target: Target = await signedIn(address);
  const project = (await target.json('/projects', 'POST', { name: 'Killed' })) as { id: string };
  const acknowledged = new Map<string, string>();
  const files: string[] = [];
  for (const name of ['a.txt', 'b.txt', 'c.bin']) {
    const { file } = (await target.send(`/projects/${project.id}/files`, form(name, content(name, 0)))) as {
      file: { id: string; newest: Kept };
    };
    files.push(file.id);
    acknowledged.set(file.newest.id, file.newest.sha256);
  }
  let going = true;
  let sent = 0;
  let refused = 0;
  let lost = 0;
  // Two senders who go on whatever happens; only what was answered counts.
  const senders = [0, 1].map(async (who) => {
    for (let n = 1; going; n++) {
      const mine = n % 3 ? 'a.txt' : 'c.bin';
      const name = who ? 'b.txt' : mine;
      const file = files[['a.txt', 'b.txt', 'c.bin'].indexOf(name)] as string;
      const bytes = content(name, n);
      try {
        const answer = (await target.send(`/files/${file}/versions`, form(name, bytes))) as Answer;
        sent++;
        if (answer.version.sha256 !== createHash('sha256').update(bytes).digest('hex')) lost++;
        acknowledged.set(answer.version.id, answer.version.sha256);
      } catch {
        refused++;
        await sleep(200);
      }
    }
  });
  for (let round = 0; round < rounds; round++) {
    await sleep(Math.random() * 900);
    const victim = (['web', 'worker', 'database'] as const)[round % 3];
    if (victim === 'database') {
      process.kill(Number(readFileSync(join(data, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL');
      await sleep(300);
      cluster = await again(() => startCluster(data, databasePort));
    } else {
      const which = victim === 'web' ? 'web' : 'worker';
      kill(which);
      processes[which] = start(which);
    }
    revive();
    target = await signedIn(address);
    if (round % 20 === 19) console.log(`${round + 1} of ${rounds} kills, ${acknowledged.size} versions acknowledged`);
  }
  going = false;
  await Promise.all(senders);
  // Everything acknowledged is there with its bytes; everything there is whole.
  const rows = (
    await db().query<{ id: string; content_id: string; hash: Buffer }>(
      'select v.id, v.content_id, c.hash from version v left join content c on c.store_id = v.store_id and c.id = v.content_id',
    )
  ).rows;
  const byId = new Map(rows.map((r) => [r.id, r]));
  for (const [id, sha256] of acknowledged) if (byId.get(id)?.hash.toString('hex') !== sha256) lost++;
  let partial = 0;
  for (const row of rows) {
    try {
      const hash = createHash('sha256');
      for await (const piece of readContent(row.content_id)) hash.update(piece);
      if (!hash.digest().equals(row.hash)) partial++;
    } catch {
      partial++;
    }
  }
  kill('web');
  kill('worker');
  await sleep(500);
  const strays = await strayChunks(db());
  await collect(undefined, 0);
  const left = await strayChunks(db());
  const report = await scrub();
  line(
    `acknowledged versions lost, ${rounds} kills`,
    String(lost),
    `goal 0; ${acknowledged.size} acknowledged, ${refused} refused or cut off, ${sent} sent`,
  );
  line('versions that are there only in part', String(partial), `goal 0; ${rows.length} read`);
  line('stray chunks before and after the collector', `${strays} / ${left}`, 'goal 0 after');
  const damage = report.damagedChunks + report.damagedContents;
  const unsealed = report.ledger?.wrong.length ?? 0;
  line('damage that the scrub found', String(damage), 'goal 0');
  line('versions that are not what the ledger says', String(unsealed), 'goal 0');
  line(
    'times that a process ended by itself: web / worker',
    `${ends.web} / ${ends.worker}`,
    'when the database went away',
  );
  await closePools();
  cluster.stop();
  rmSync(data, { recursive: true, force: true });
  return lost + partial + left + damage + unsealed === 0 && !report.ledger?.broken;
}

async function again<T>(work: () => Promise<T>): Promise<T> {
  for (let i = 0; ; i++) {
    try {
      return await work();
    } catch (error) {
      if (i > 60) throw error;
      await sleep(500);
    }
  }
}

const signedIn = (address: string): Promise<Target> =>
  again(async () => {
    const target = await signInTo(address, 0);
    if (!target.cookie) throw new Error('not signed in');
    return target;
  });

/** Text of which a little changes each time, so that it is packed as differences; or bytes that share nothing. */
function content(name: string, n: number): Uint8Array {
  if (name.endsWith('.bin')) return Uint8Array.from(randomBytes(1_500_000));
  const lines = Array.from(
    { length: 12_000 },
    (_, i) => `#${i}=POINT(${(i * 7919) % 9973}.25,${(i * 104_729) % 99_991}.5);`,
  );
  for (let k = 0; k < 50; k++) lines[(n * 977 + k * 131) % lines.length] = `#${n}=CHANGED(${k},${Math.random()});`;
  return new TextEncoder().encode(lines.join('\n'));
}

function form(name: string, bytes: Uint8Array): FormData {
  const out = new FormData();
  out.append('allowOtherFormat', 'yes');
  out.append('file', new Blob([Uint8Array.from(bytes)]), name);
  return out;
}

/** Chunks that no content refers to. */
async function strayChunks(pool: {
  query: (text: string) => Promise<{ rows: Record<string, string>[] }>;
}): Promise<number> {
  const { rows } = await pool.query(`
    with needed as (
      select ('x' || encode(substring(manifest from n.i * 12 + 1 for 8), 'hex'))::bit(64)::bigint as id
      from content, generate_series(0, octet_length(manifest) / 12 - 1) as n(i))
    select count(*) as n from chunk where id not in (select id from needed)`);
  return Number(rows[0]?.['n']);
}
