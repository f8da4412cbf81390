import { rmSync } from 'node:fs';
import pg from 'pg';
import { dataFolder, freePort, startCluster } from '../bin/lib/cluster.ts';
import { ensureDatabase, migrate } from '../bin/lib/database.ts';
import { startInstance } from '../bin/lib/instance.ts';
import { root } from '../bin/lib/prepare.mjs';
import { closePools } from '../web/src/server/db/pool.ts';
import { benchAccuracy } from './accuracy/main.ts';
import { benchKnownEditsOfModels } from './accuracy/models.ts';
import { benchKnownEdits } from './accuracy/pictures.ts';
import { benchTables } from './accuracy/tables.ts';
import { benchArchive } from './archive.ts';
import { benchBrowser } from './browser.ts';
import { benchCheckIn } from './checkin.ts';
import { benchCompare } from './compare.ts';
import { benchDeltas } from './deltas.ts';
import { benchDesk } from './desk.ts';
import { benchDocuments } from './documents.ts';
import { benchDrawn } from './drawn.ts';
import { benchHeavy } from './heavy.ts';
import { benchIntake } from './intake.ts';
import { benchJoins } from './join/main.ts';
import { benchKill } from './kill.ts';
import { benchLists } from './lists.ts';
import { benchLoad } from './load.ts';
import { benchModels } from './models.ts';
import { benchPictures } from './pictures.ts';
import { benchReading } from './reading.ts';
import { benchStrangers } from './strangers/main.ts';
import { benchStorage } from './storage.ts';
import { benchSweeps } from './sweeps.ts';
import { signInTo } from './target.ts';
import { benchThroughTime } from './through-time.ts';
import { benchViewer } from './viewer.ts';
import { benchWatch } from './watch.ts';

const only = process.argv.slice(2);
const wants = (name: string): boolean => only.length === 0 || only.includes(name);

if (wants('compare')) await benchCompare();
// `accuracy pictures JPEG`: only pictures, and of them only what was done by JPEG.
const pictured = only[0] === 'accuracy' && only[1] === 'pictures';
if (wants('accuracy') && !pictured) benchAccuracy();
if (wants('accuracy')) await benchKnownEdits(pictured ? (only[2] ?? '') : '');
if (wants('pictures') && !pictured) await benchPictures();
if (wants('models') && only[1] !== 'edits') await benchModels();
// `models edits`: only those.
if (wants('models')) await benchKnownEditsOfModels();
if (wants('tables')) await benchTables();
if (wants('documents')) await benchDocuments();
if (wants('joins')) await benchJoins(only[0] === 'joins' ? only[1] : undefined);
if (wants('watch')) await benchWatch();
if (wants('intake')) await benchIntake();
if (wants('deltas')) await benchDeltas(Number(only[1] ?? 200));
if (only[0] === 'sweeps' && !(await benchSweeps(Number(only[1] ?? 100)))) process.exitCode = 1;
if (wants('archive')) await benchArchive();
// Many minutes and the network: only when asked for.
if (only[0] === 'strangers') await benchStrangers(only.slice(1));
if (only[0] === 'kill' && !(await benchKill(Number(only[1] ?? 200)))) process.exitCode = 1;
if (['storage', 'lists', 'reading', 'drawn'].some(wants)) {
  const folder = dataFolder(undefined, '.ovrel-bench-store');
  rmSync(folder, { recursive: true, force: true });
  const cluster = await startCluster(folder);
  try {
    await ensureDatabase(cluster.url('postgres'), 'ovrel');
    await migrate(cluster.url('ovrel'));
    Object.assign(process.env, { DATABASE_URL: cluster.url('ovrel'), OVREL_ROOT: root });
    if (wants('storage')) await benchStorage(only[1]);
    if (['lists', 'reading', 'drawn'].some(wants)) {
      // Only reading is measured here; making tens of thousands of versions need not wait for the disk.
      const admin = new pg.Client({ connectionString: cluster.url('ovrel') });
      await admin.connect();
      await admin.query('alter database ovrel set synchronous_commit = off').finally(() => admin.end());
      await closePools();
      if (wants('lists')) await benchLists();
      if (wants('drawn')) await benchDrawn(only[0] === 'drawn' && only[1] ? Number(only[1]) : undefined);
      if (wants('reading')) await benchReading(only[0] === 'reading' && only[1] ? Number(only[1]) : 1000);
    }
    await closePools();
  } finally {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
if (['checkin', 'browser', 'through-time', 'desk', 'viewer', 'load', 'heavy'].some(wants)) {
  // Packing afterwards would take part in what is measured.
  const folder = dataFolder(undefined, '.ovrel-bench');
  rmSync(folder, { recursive: true, force: true });
  const instance = await startInstance({ port: await freePort(), demo: true, data: () => folder, workers: 0 });
  try {
    const target = await signInTo(instance.address, instance.serverPid);
    if (wants('browser')) await benchBrowser(target);
    if (wants('through-time')) await benchThroughTime(target, instance.databaseUrl);
    if (wants('viewer')) await benchViewer(target, only[0] === 'viewer' && only[1] ? Number(only[1]) : 1_000_000);
    if (wants('checkin')) await benchCheckIn(target);
    if (wants('load')) await benchLoad(target, only[0] === 'load' && only[1] ? Number(only[1]) : undefined);
    if (wants('heavy')) await benchHeavy(target, only[0] === 'heavy' && only[1] ? Number(only[1]) : undefined);
    if (wants('desk'))
      await benchDesk(target, instance.databaseUrl, only[0] === 'desk' && only[1] ? Number(only[1]) : 10_000);
  } finally {
    await instance.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
process.exit();
