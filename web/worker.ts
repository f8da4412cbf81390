/** A worker process: carries out jobs from the queue until it is told to stop. */
import { setPriority } from 'node:os';
import { closeWorkers } from './src/server/compute/pool.ts';
import { closePools } from './src/server/db/pool.ts';
import { closeQueue } from './src/server/jobs/queue.ts';
import { startWorker } from './src/server/jobs/run.ts';

// People at the web process go before work in the background.
setPriority(10);
const worker = await startWorker();
process.send?.('ready');
let stopping = false;

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  setTimeout(() => process.exit(0), 8000).unref();
  await worker.stop().catch(() => undefined);
  await closeQueue();
  await Promise.all([closePools(), closeWorkers()]);
  process.exit(0);
}

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
process.on('disconnect', () => void stop());
