import { writeFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Exhausted } from '../model/problem.ts';
import { answerOfChild, type ChildWork } from './child.ts';

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'ovrel-child-'));
});
afterAll(() => rm(folder, { recursive: true }));

async function work(script: string): Promise<ChildWork> {
  const path = join(folder, `${script.length}.mjs`);
  await writeFile(path, script);
  const input = new TextEncoder().encode('tide');
  return { script: pathToFileURL(path).href, words: ['table'], input, milliseconds: 1000, busy: 'Busy.' };
}

test('a process gets bytes and words, and its answer comes back', async () => {
  const echo = await work('for await (const p of process.stdin) process.stdout.write(`${process.argv[2]} ${p}`);');
  expect((await answerOfChild(echo))?.toString()).toBe('table tide');
});

test('one that computes for ever, or ends without a word, has no answer: that is of the bytes, and may be kept', async () => {
  expect(await answerOfChild(await work('for (;;) ;'))).toBeUndefined();
  expect(await answerOfChild(await work('process.stdout.write("half"); process.abort();'))).toBeUndefined();
});

test('one that gets no time of the machine says nothing of its bytes', async () => {
  const waits = await work('process.stdin.resume(); setInterval(() => undefined, 1000);');
  await expect(answerOfChild({ ...waits, patience: 0.2 })).rejects.toThrow(Exhausted);
});
