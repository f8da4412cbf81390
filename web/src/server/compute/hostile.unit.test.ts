/** Files that are made to hurt end in time, whatever is asked of them, and what is sound is read as before. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { hostileFiles } from '../../../../fuzz/hostile.ts';
import type { Source } from './task.ts';
import { closeThreads, runInThread, TooHeavy } from './threads.ts';

const root = join(__dirname, '../../../..');
process.env['OVREL_ROOT'] = root;
afterAll(closeThreads);

const still = { gone: undefined };
const canary = (): Source => ({
  bytes: Uint8Array.from(readFileSync(join(root, 'demo/real/lighthouse.svg'))),
  name: 'lighthouse.svg',
});

/** A result, or the refusal that is meant for such a file: anything else is a fault. */
const survive = (work: Promise<unknown>): Promise<unknown> =>
  work.catch((error: unknown) => {
    if (!(error instanceof TooHeavy)) throw error;
    return error.message;
  });

test.each(Object.keys(hostileFiles))('%s is looked into, drawn and compared without harm', async (name) => {
  const source = (): Source => ({ bytes: Uint8Array.from(hostileFiles[name]?.() ?? []), name });
  await survive(runInThread('look', { source: source() }, still));
  await survive(runInThread('thumbnail', { source: source(), side: 96 }, still));
  await survive(runInThread('references', { source: source() }, still));
  await survive(runInThread('compare', { a: source(), b: canary() }, still));
  expect((await runInThread('look', { source: canary() }, still)).parts).toBe(134);
});
