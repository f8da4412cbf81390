/**
 * Sweeps that are killed: a worker sweeps a project of many saves and is killed (SIGKILL) at random moments, again and
 * again, while others save. Nothing may go but what the rule lets go, nothing may be half gone, and the ledger has to
 * hold. `npm run bench sweeps [KILLS]`.
 */
import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { KEEP_ALL } from '@ovrel/core';
import { dataFolder, startCluster } from '../bin/lib/cluster.ts';
import { ensureDatabase, migrate } from '../bin/lib/database.ts';
import { root } from '../bin/lib/prepare.mjs';
import { line } from './measure.ts';

const FILES = 6;
const SAVES = 40;

/** True where nothing was lost. */
export async function benchSweeps(kills: number): Promise<boolean> {
  const data = dataFolder(undefined, '.ovrel-sweeps');
  rmSync(data, { recursive: true, force: true });
  const cluster = await startCluster(data);
  await ensureDatabase(cluster.url('postgres'), 'ovrel');
  await migrate(cluster.url('ovrel'));
  Object.assign(process.env, { DATABASE_URL: cluster.url('ovrel'), OVREL_ROOT: root, OVREL_LOG: 'silent' });
  const { db, closePools, one } = await import('../web/src/server/db/pool.ts');
  const { makeTestPerson, incoming } = await import('../web/src/server/testing/database.ts');
  const { makeProject } = await import('../web/src/server/projects/service.ts');
  const { makeFile } = await import('../web/src/server/versions/checkin.ts');
  const { save } = await import('../web/src/server/saving/service.ts');
  const { setKeeping } = await import('../web/src/server/keeping/service.ts');
  const { titleVersion } = await import('../web/src/server/versions/titles.ts');
  const { proveLedger } = await import('../web/src/server/ledger/ledger.ts');
  const ines = await makeTestPerson('lead', 'Ines');
  const project = await makeProject(ines, 'Swept');
  await db().query('update project set saves_count = true where id = $1', [project.id]);
  const rule = { ...KEEP_ALL, autosave: [] };
  await setKeeping(ines, project.id, { folder: undefined, content: undefined, rule });
  const kept = new Set<string>();
  const files: string[] = [];
  for (let k = 0; k < FILES; k++) {
    const { file } = await makeFile(ines, project.id, null, `f${k}.txt`, incoming(`f${k}.txt`, `${k}`), { note: '' });
    files.push(file.id);
    kept.add(file.newest.id);
  }
  const options = { key: undefined, base: undefined, title: undefined };
  const fill = async (round: number): Promise<void> => {
    for (const [k, id] of files.entries())
      for (let n = 0; n < SAVES / FILES; n++) {
        const { version } = await save(ines, id, incoming(`f${k}.txt`, `${round} ${k} ${n}`), options);
        if (n !== 1) continue;
        await titleVersion(ines, version.id, { title: `Kept in ${round}` });
        kept.add(version.id);
      }
  };
  let killed = 0;
  let finished = 0;
  for (let round = 0; killed < kills; round++) {
    await fill(round);
    for (let tries = 0; tries < 8 && killed < kills; tries++) {
      const child = spawn(process.execPath, [join(root, 'bench', 'sweep-child.ts'), project.id], { stdio: 'pipe' });
      const ended = new Promise<number | null>((done) => child.once('close', done));
      // It says when it begins: its own start takes longer than the sweep.
      await new Promise((begun) => child.stdout.once('data', begun));
      await sleep(Math.random() * 60);
      child.kill('SIGKILL');
      if ((await ended) === 0) finished++;
      else killed++;
    }
  }
  const { sweep } = await import('../web/src/server/keeping/sweep.ts');
  await sweep(project.id, async () => undefined);
  const there = (await db().query<{ id: string }>('select id from version where file_id = any($1)', [files])).rows;
  const ids = new Set(there.map(({ id }) => id));
  const missing = [...kept].filter((id) => !ids.has(id)).length;
  const newest = await one<{ n: number }>(
    db(),
    'select count(*)::int as n from version_parent p where p.parent_id is not null and not exists (select 1 from version v where v.id = p.parent_id)',
  );
  const half = newest?.n ?? 0;
  const { broken } = await proveLedger();
  line('sweeps killed; finished before they could be', `${killed}`, `${finished}`);
  line('versions that had to stay and are gone', `${missing}`, 'goal 0');
  line('versions that follow one that is gone', `${half}`, 'goal 0');
  line('the ledger holds', broken ? broken.why : 'yes');
  line('versions left; keepers and newest', `${there.length}`, `${kept.size + FILES}`);
  await closePools();
  cluster.stop();
  rmSync(data, { recursive: true, force: true });
  return missing === 0 && half === 0 && !broken && there.length <= kept.size + FILES;
}
