/** Reads mutated files, and compares some with the file that they came from. Whatever is thrown but a sentence for people is a failure. */
import { parentPort } from 'node:worker_threads';
import { compare, open, sceneOf, svgOf } from '@ovrel/core';
import { corpus } from './corpus.ts';
import { mutate, randomFrom } from './mutate.ts';

const files = corpus();

export interface Order {
  readonly format: string;
  readonly seed: number;
}
export interface Result extends Order {
  readonly level: string;
  readonly failure?: string;
  readonly bytes: number;
  readonly ms: number;
}

/** Milliseconds of this thread's own work: other threads of a busy machine do not count. */
const cpuSince = (start: { user: number; system: number }): number => {
  const { user, system } = process.threadCpuUsage(start);
  return (user + system) / 1000;
};

function run({ format, seed }: Order): Result {
  const parents = files[format] ?? [], random = randomFrom(seed), parent = parents[random(parents.length)] as Uint8Array, bytes = mutate(parent, parents[random(parents.length)] as Uint8Array, random);
  const name = format === 'svg' ? 'x.svg' : 'x.dxf', start = process.threadCpuUsage();
  const done = (level: string, failure?: string): Result => ({ format, seed, level, bytes: bytes.length, ms: cpuSince(start), ...(failure ? { failure } : {}) });
  try {
    const opened = open(bytes, name);
    if (opened.level === 'parts' && opened.design && seed % 4 === 0) {
      compare({ name, bytes: parent, opened: open(parent, name) }, { name, bytes, opened });
      sceneOf(opened.design, 0);
      svgOf(opened.design, 0);
    }
    return done(opened.level);
  } catch (error) {
    return done('none', error instanceof Error ? error.stack ?? error.message : String(error));
  }
}

parentPort?.on('message', (order: Order) => parentPort?.postMessage(run(order)));
