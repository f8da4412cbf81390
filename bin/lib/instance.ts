/** One running Ovrel: database, application, demo. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync } from 'node:fs';
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
  /** Worker processes as they are now. */
  readonly workerPids: () => number[];
  readonly stop: () => Promise<void>;
  /** Resolves when the application ends by itself. */
  readonly ended: Promise<number>;
}

export interface Wanted {
  readonly port: number;
  readonly demo: boolean;
  readonly data?: () => string;
  /** Worker processes; OVREL_WORKERS, or one. */
  readonly workers?: number;
  /** A second web process on the same database, at this port. */
  readonly secondPort?: number;
}

export async function startInstance({
  port,
  demo,
  data = dataFolder,
  workers = Number(process.env['OVREL_WORKERS'] ?? 1),
  secondPort,
}: Wanted): Promise<Instance> {
  await refuseTakenPort(port);
  const given = process.env['DATABASE_URL'];
  const cluster = given ? undefined : await startCluster(data());
  const children: ChildProcess[] = [];
  const workerProcesses = new Set<ChildProcess>();
  const stop = async (): Promise<void> => {
    stopping = true;
    await Promise.all(children.map(end));
    cluster?.stop();
  };
  let stopping = false;
  try {
    const databaseUrl = given ?? cluster?.url('ovrel') ?? '';
    if (cluster) await ensureDatabase(cluster.url('postgres'), 'ovrel');
    await migrate(databaseUrl);
    process.env['DATABASE_URL'] = databaseUrl;
    process.env['OVREL_ROOT'] = root;
    process.env['OVREL_WATCHED_ROOT'] ??= sharesIn(data());
    const { loadDemo } = await import('../../demo/load.ts');
    const withDemo = await loadDemo(demo);
    ensureBuild();
    const env = { ...process.env, NODE_ENV: 'production', PORT: String(port), NEXT_TELEMETRY_DISABLED: '1' };
    const child = run('server.ts', env);
    children.push(child);
    const second = secondPort === undefined ? undefined : run('server.ts', { ...env, PORT: String(secondPort) });
    if (second) children.push(second);
    const ended = new Promise<number>((done) => child.once('close', (code) => done(code ?? 1)));
    const startWorker = (): void => {
      const worker = run('worker.ts', env);
      children.push(worker);
      workerProcesses.add(worker);
      // A worker that dies is started anew; its job is given out again by the queue.
      worker.once('close', () => {
        children.splice(children.indexOf(worker), 1);
        workerProcesses.delete(worker);
        if (!stopping) setTimeout(() => !stopping && startWorker(), 1000);
      });
    };
    for (let i = 0; i < workers; i++) startWorker();
    await Promise.race([
      Promise.all(
        (second ? [child, second] : [child]).map((web) => new Promise((ready) => web.once('message', ready))),
      ),
      ended.then(() => {
        throw new Stop('The application did not start; what it said is above.');
      }),
    ]);
    return {
      address: `http://localhost:${port}`,
      databaseUrl,
      otherDatabase: cluster?.url,
      withDemo,
      serverPid: child.pid ?? 0,
      workerPids: () => [...workerProcesses].map((w) => w.pid ?? 0),
      stop,
      ended,
    };
  } catch (error) {
    await stop();
    throw error;
  }
}

/** A stand-in for a network share, where folders can be watched. */
function sharesIn(folder: string): string {
  const shares = join(folder, 'shares');
  mkdirSync(shares, { recursive: true });
  return shares;
}

/** One of the application's processes. */
const run = (script: string, env: NodeJS.ProcessEnv): ChildProcess =>
  spawn(process.execPath, [join(root, 'web', script)], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
    env,
  });

async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((done) => child.once('close', done));
  child.kill('SIGTERM');
  await gone;
}

const refuseTakenPort = (port: number): Promise<void> =>
  new Promise((free, taken) => {
    const probe = createServer();
    probe.once('error', () =>
      taken(new Stop(`Port ${port} is in use. Stop what uses it, or choose another one: PORT=${port + 1} npm start`)),
    );
    probe.listen(port, () => probe.close(() => free()));
  });
