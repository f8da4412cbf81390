/** One running Ovrel: database, application, demo. */
import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureBuild } from './build.ts';
import { dataFolder, startCluster } from './cluster.ts';
import { ensureDatabase, migrate } from './database.ts';
import { root } from './prepare.mjs';
import { Stop } from './stop.ts';

export interface Instance {
  readonly address: string;
  readonly databaseUrl: string;
  /** Address of another database of the same cluster; undefined where DATABASE_URL was given. */
  readonly otherDatabase: ((name: string) => string) | undefined;
  readonly withDemo: boolean;
  readonly serverPid: number;
  readonly stop: () => Promise<void>;
  /** Resolves when the application ends by itself. */
  readonly ended: Promise<number>;
}

export async function startInstance({ port, demo, data = dataFolder }: { port: number; demo: boolean; data?: () => string }): Promise<Instance> {
  await refuseTakenPort(port);
  const given = process.env['DATABASE_URL'];
  const cluster = given ? undefined : await startCluster(data());
  let server: ChildProcess | undefined;
  const stop = async (): Promise<void> => {
    if (server && server.exitCode === null) {
      const gone = new Promise((done) => server?.once('close', done));
      server.kill('SIGTERM');
      await gone;
    }
    cluster?.stop();
  };
  try {
    const databaseUrl = given ?? cluster?.url('ovrel') ?? '';
    if (cluster) await ensureDatabase(cluster.url('postgres'), 'ovrel');
    await migrate(databaseUrl);
    process.env['DATABASE_URL'] = databaseUrl;
    process.env['OVREL_ROOT'] = root;
    const { loadDemo } = await import('../../demo/load.ts');
    const withDemo = await loadDemo(demo);
    ensureBuild();
    const child = spawn(process.execPath, [join(root, 'web', 'server.ts')], {
      cwd: join(root, 'web'), stdio: ['ignore', 'inherit', 'inherit', 'ipc'], detached: true,
      env: { ...process.env, NODE_ENV: 'production', PORT: String(port), NEXT_TELEMETRY_DISABLED: '1' },
    });
    server = child;
    const ended = new Promise<number>((done) => child.once('close', (code) => done(code ?? 1)));
    await Promise.race([
      new Promise((ready) => child.once('message', ready)),
      ended.then(() => { throw new Stop('The application did not start; what it said is above.'); }),
    ]);
    return { address: `http://localhost:${port}`, databaseUrl, otherDatabase: cluster?.url, withDemo, serverPid: child.pid ?? 0, stop, ended };
  } catch (error) {
    await stop();
    throw error;
  }
}

const refuseTakenPort = (port: number): Promise<void> => new Promise((free, taken) => {
  const probe = createServer();
  probe.once('error', () => taken(new Stop(`Port ${port} is in use. Stop what uses it, or choose another one: PORT=${port + 1} npm start`)));
  probe.listen(port, () => probe.close(() => free()));
});
