/** Reads mutated files, and compares some with the file that they came from. Whatever is thrown but a sentence for people is a failure. */
import { parentPort } from 'node:worker_threads';
import { compare, open, pictureFormats, ReadError, sceneOf, svgOf } from '@ovrel/core';
import { compareAny, decodePicture, drawPdfPage, preparePdf } from '@ovrel/core/node';
import { corpus } from './corpus.ts';
import { mutate, randomFrom } from './mutate.ts';

const files = await corpus();
await preparePdf();

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
  const name = format === 'svg' ? 'x.svg' : format.endsWith('dxf') ? 'x.dxf' : `x.${format}`;
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
    const opened = open(bytes, name);
    if (opened.format && pictureFormats.has(opened.format.id))
      return done(await pixels(bytes, opened.format.id, seed % 8 === 0 ? parent : undefined, name));
    if (opened.format?.id === 'pdf' && opened.design && seed % 4 === 0) drawPdfPage(bytes, 0, 200);
    if (opened.level === 'parts' && opened.design && seed % 4 === 0) {
      compare({ name, bytes: parent, opened: open(parent, name) }, { name, bytes, opened });
      sceneOf(opened.design, 0);
      svgOf(opened.design, 0);
    }
    return done(opened.level);
  } catch (error) {
    if (error instanceof ReadError) return done('sentence');
    return done('none', error instanceof Error ? (error.stack ?? error.message) : String(error));
  }
}

/** A sentence for people is an answer. */
async function pixels(
  bytes: Uint8Array,
  format: string,
  parent: Uint8Array | undefined,
  name: string,
): Promise<string> {
  try {
    await decodePicture(bytes, format);
    if (parent)
      await compareAny({ name, bytes: parent, opened: open(parent, name) }, { name, bytes, opened: open(bytes, name) });
    return 'pixels';
  } catch (error) {
    if (error instanceof ReadError) return 'sentence';
    throw error;
  }
}

parentPort?.on('message', (order: Order) => void run(order).then((result) => parentPort?.postMessage(result)));
