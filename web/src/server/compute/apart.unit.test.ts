import { readFileSync } from 'node:fs';
import { getPriority } from 'node:os';
import { join } from 'node:path';
import type { PagesSoFar } from '@ovrel/core';
import { Apart } from './apart.ts';
import type { Source } from './task.ts';
import { closeThreads, runInThread, TooHeavy } from './threads.ts';
import { Abandoned } from './waiting.ts';

const root = join(__dirname, '../../../..');
process.env['OVREL_ROOT'] = root;

const apart = new Apart();
afterAll(async () => {
  apart.close();
  await closeThreads();
});

const read = (name: string): Source => ({ bytes: Uint8Array.from(readFileSync(join(root, 'demo/real', name))), name });
const drawing = (): Source => read('lighthouse.svg');
const still = { gone: undefined };

test('a process of its own gives what a thread here gives, and is served after others', async () => {
  const there = await apart.run('compare', { a: drawing(), b: drawing() }, still);
  const here = await runInThread('compare', { a: drawing(), b: drawing() }, still);
  expect(there.summary).toBe(here.summary);
  expect(Buffer.from(there.value).equals(Buffer.from(here.value))).toBe(true);
  expect(getPriority(apart.processId)).toBe(5);
});

test('many at once each get their own result, in the one process', async () => {
  const before = apart.processId;
  const looks = await Promise.all([
    apart.run('look', { source: drawing() }, still),
    apart.run('look', { source: { bytes: new Uint8Array([0, 1, 2]), name: 'x.bin' } }, still),
    apart.run('look', { source: drawing() }, still),
  ]);
  expect(looks.map((look) => look.parts)).toEqual([134, 0, 134]);
  expect(apart.processId).toBe(before);
});

test('what is known so far is told', async () => {
  const told: PagesSoFar[] = [];
  const document = (): Source => read('drawing-by-program.pdf');
  const progress = (soFar: PagesSoFar): unknown => told.push(soFar);
  await apart.run('pages', { a: document(), b: document() }, { ...still, progress });
  expect(told.length).toBeGreaterThan(0);
});

test('limits hold there, too', async () => {
  await expect(apart.run('look', { source: drawing() }, { ...still, seconds: -1000 })).rejects.toThrow(TooHeavy);
  expect((await apart.run('look', { source: drawing() }, still)).parts).toBe(134);
});

test('what nobody waits for is given up, and the next task runs', async () => {
  const leaving = new AbortController();
  const given = apart.run('compare', { a: drawing(), b: drawing() }, { gone: leaving.signal });
  leaving.abort();
  await expect(given).rejects.toThrow(Abandoned);
  await expect(apart.run('look', { source: drawing() }, { gone: AbortSignal.abort() })).rejects.toThrow(Abandoned);
  expect((await apart.run('look', { source: drawing() }, still)).parts).toBe(134);
});

test('a process that is killed fails what it had, as too heavy, and another one takes its place', async () => {
  const given = apart.run('compare', { a: drawing(), b: drawing() }, still);
  const before = apart.processId;
  process.kill(before!, 'SIGKILL');
  await expect(given).rejects.toThrow(TooHeavy);
  expect((await apart.run('look', { source: drawing() }, still)).parts).toBe(134);
  expect(apart.processId).not.toBe(before);
});

test('a process that was closed is started anew by the next task', async () => {
  apart.close();
  expect(apart.processId).toBeUndefined();
  expect((await apart.run('look', { source: drawing() }, still)).parts).toBe(134);
});

test('two that end in the same moment leave no clock behind that ends the process under a later task', async () => {
  const soon = new Apart(200);
  const leaving = new AbortController();
  const both = [drawing(), drawing()].map((source) => soon.run('look', { source }, { gone: leaving.signal }));
  leaving.abort();
  expect((await Promise.allSettled(both)).map(({ status }) => status)).toEqual(['rejected', 'rejected']);
  // Starting the process alone takes longer than the clock.
  expect((await soon.run('look', { source: drawing() }, still)).parts).toBe(134);
  soon.close();
});
