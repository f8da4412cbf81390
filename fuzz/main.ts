/**
 * npm run fuzz [files a format] [first seed] [formats]: mutated files of every format through the readers, some through
 * comparing and drawing.
 */
import { appendFileSync, existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { root } from '../bin/lib/prepare.mjs';
import { corpus } from './corpus.ts';
import type { Order, Result } from './worker.ts';

const count = Number(process.argv[2] ?? 20_000);
const first = Number(process.argv[3] ?? 1);
const seedsFile = join(root, 'fuzz', 'seeds.txt');
/** Seconds a megabyte, and a base for what every file costs on a busy machine. */
const timeFor = (bytes: number): number => 2000 * Math.max(1, bytes / 1024 ** 2);
const MEMORY_MB = 768;

function* orders(): Generator<Order> {
  // Seeds that once found something come first.
  if (existsSync(seedsFile))
    for (const line of readFileSync(seedsFile, 'utf8').split('\n')) {
      const [format, seed] = line.split('\t');
      if (format && seed) yield { format, seed: Number(seed) };
    }
  for (const format of formats) for (let n = 0; n < count; n++) yield { format, seed: first + n };
}

const wanted = process.argv.slice(4);
const formats = Object.keys(await corpus()).filter((format) => wanted.length === 0 || wanted.includes(format));
const tally = new Map<string, number>();
const failures: string[] = [];
let slowest = 0;
let done = 0;
const queue = orders();

function settle(order: Order, failure: string | undefined): void {
  done++;
  if (done % 5000 === 0) console.log(`${done} files, ${failures.length} failures`);
  if (!failure) return;
  failures.push(`${order.format}, seed ${order.seed}: ${failure.split('\n').slice(0, 3).join(' ')}`);
  appendFileSync(seedsFile, `${order.format}\t${order.seed}\n`);
}

/** One thread after another until the orders are done. */
async function lane(): Promise<void> {
  let worker: Worker | undefined;
  for (const order of queue) {
    worker ??= new Worker(join(root, 'fuzz', 'worker.ts'), { resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
    const { result, failure } = await ask(worker, order);
    if (!result) {
      await worker.terminate();
      worker = undefined;
    }
    const hang =
      result && result.ms > timeFor(result.bytes)
        ? `took ${Math.round(result.ms)} ms for ${result.bytes} bytes`
        : undefined;
    if (result) {
      tally.set(`${order.format} ${result.level}`, (tally.get(`${order.format} ${result.level}`) ?? 0) + 1);
      slowest = Math.max(slowest, result.ms);
    }
    settle(order, failure ?? result?.failure ?? hang);
  }
  await worker?.terminate();
}

const ask = (worker: Worker, order: Order): Promise<{ result?: Result; failure?: string }> =>
  new Promise((resolve) => {
    const end = (answer: { result?: Result; failure?: string }): void => {
      clearTimeout(timer);
      worker.off('message', onMessage);
      worker.off('error', onError);
      resolve(answer);
    };
    const onMessage = (result: Result): void => end({ result });
    const onError = (error: Error): void => end({ failure: `the thread ended: ${error.message}` });
    const timer = setTimeout(() => end({ failure: 'hung' }), 90_000);
    worker.on('message', onMessage);
    worker.on('error', onError);
    worker.postMessage(order);
  });

await Promise.all([lane(), lane()]);
for (const [what, n] of [...tally].sort()) console.log(`${what.padEnd(24)} ${n}`);
console.log(`${done} files, slowest ${Math.round(slowest)} ms, ${failures.length} failures`);
for (const line of failures.slice(0, 40)) console.log(line);
process.exit(failures.length ? 1 : 0);
