/** A database and a running Ovrel for tests, which are gone afterwards. */
import { rmSync } from 'node:fs';
import { dataFolder, freePort } from './cluster.ts';
import { ensureDatabase, migrate } from './database.ts';
import { startInstance } from './instance.ts';
import { Stop } from './stop.ts';

export interface TestBed {
  /** What tests of units and of the server need. */
  readonly units: NodeJS.ProcessEnv;
  /** What tests of the interface need; starts an empty Ovrel beside the one with the demo. */
  readonly interface: () => Promise<NodeJS.ProcessEnv>;
}

export async function withTestBed<T>(work: (bed: TestBed) => Promise<T>): Promise<T> {
  const folder = dataFolder(undefined, '.ovrel-test');
  rmSync(folder, { recursive: true, force: true });
  const secondPort = await freePort();
  const port = await freePort();
  const instance = await startInstance({ port, demo: true, data: () => folder, workers: 2, secondPort });
  const others: { stop: () => Promise<void> }[] = [];
  try {
    const database = instance.otherDatabase;
    if (!database) throw new Stop('The tests need a cluster of their own; unset DATABASE_URL.');
    await ensureDatabase(database('postgres'), 'ovrel_template');
    await migrate(database('ovrel_template'));
    return await work({
      units: { OVREL_TEST_DATABASE: database('postgres'), OVREL_LOG: 'silent' },
      interface: async () => {
        await ensureDatabase(database('postgres'), 'ovrel_empty');
        process.env['DATABASE_URL'] = database('ovrel_empty');
        const empty = await startInstance({ port: await freePort(), demo: false });
        others.push(empty);
        return {
          OVREL_E2E_URL: instance.address,
          OVREL_E2E_SECOND_URL: `http://localhost:${secondPort}`,
          OVREL_E2E_EMPTY_URL: empty.address,
          OVREL_E2E_DATABASE: instance.databaseUrl,
          OVREL_E2E_WORKER: String(instance.workerPids()[0]),
          OVREL_E2E_DATA: folder,
        };
      },
    });
  } finally {
    for (const other of others) await other.stop();
    await instance.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
