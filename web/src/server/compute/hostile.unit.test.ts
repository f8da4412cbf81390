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

/** What is asked of a file, by its name. */
const asked = {
  look: (source: () => Source) => runInThread('look', { source: source() }, still),
  thumbnail: (source: () => Source) => runInThread('thumbnail', { source: source(), side: 96 }, still),
  references: (source: () => Source) => runInThread('references', { source: source() }, still),
  compare: (source: () => Source) => runInThread('compare', { a: source(), b: canary() }, still),
} as const;

/** What is given up for want of time or memory. All else comes to a result: files that multiply are bounded by their size. */
const GIVEN_UP: ReadonlySet<string> = new Set([
  'self-invoking.pdf: look',
  'self-invoking.pdf: thumbnail',
  'self-invoking.pdf: compare',
  'many-operators.pdf: compare',
]);

test.each(Object.keys(hostileFiles))('%s is looked into, drawn and compared without harm', async (name) => {
  const source = (): Source => ({ bytes: Uint8Array.from(hostileFiles[name]?.() ?? []), name });
  const givenUp: string[] = [];
  for (const [what, ask] of Object.entries(asked))
    await ask(source).catch((error: unknown) => {
      if (!(error instanceof TooHeavy)) throw error;
      givenUp.push(`${name}: ${what}`);
    });
  expect(givenUp.filter((one) => !GIVEN_UP.has(one))).toEqual([]);
  expect((await runInThread('look', { source: canary() }, still)).parts).toBe(134);
});
