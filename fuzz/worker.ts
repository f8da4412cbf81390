/**
 * Reads mutated files, and compares some with the file that they came from. Whatever is thrown but a sentence for
 * people is a failure.
 */
import { parentPort } from 'node:worker_threads';
import {
  compareFiles,
  kindOf,
  modelOf,
  open,
  packSpace,
  ReadError,
  sceneOf,
  spaceOf,
  svgOf,
  unpackSpace,
  type Solid,
} from '@ovrel/core';
import '@ovrel/core/node';
import { corpus } from './corpus.ts';
import { mutate, randomFrom } from './mutate.ts';

const files = await corpus();

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

async function run({ format, seed }: Order): Promise<Result> {
  const parents = files[format] ?? [];
  const random = randomFrom(seed);
  const parent = parents[random(parents.length)] as Uint8Array;
  const bytes = mutate(parent, parents[random(parents.length)] as Uint8Array, random);
  const name = format.endsWith('dxf') ? 'x.dxf' : `x.${format}`;
  const start = process.threadCpuUsage();
  const done = (level: string, failure?: string): Result => ({
    format,
    seed,
    level,
    bytes: bytes.length,
    ms: cpuSince(start),
    ...(failure ? { failure } : {}),
  });
  try {
    const content = await open(bytes, name);
    const [kind] = content.kinds;
    const compares = seed % (kind === 'picture' ? 8 : 4) === 0;
    if (kind === 'picture') await (await modelOf(content, kind)).page(0);
    if (kind === 'drawing' && content.format?.draw && seed % 4 === 0) await content.format.draw(bytes, 0, 200);
    if (compares && (kind === 'picture' || kind === 'drawing' || kind === 'solid' || kind === 'table'))
      await compareFiles(await open(parent, name), content);
    if (kind === 'drawing' && content.design && compares) {
      sceneOf(content.design, 0);
      svgOf(content.design, 0);
    }
    if (kind === 'solid' && compares) {
      unpackSpace(packSpace(spaceOf(content.design as Solid)));
      await kindOf(kind).picture?.({ content, model: content.design as Solid }, 0, 64);
    }
    return done(kind);
  } catch (error) {
    if (error instanceof ReadError) return done('sentence');
    return done('none', error instanceof Error ? (error.stack ?? error.message) : String(error));
  }
}

parentPort?.on('message', (order: Order) => void run(order).then((result) => parentPort?.postMessage(result)));
