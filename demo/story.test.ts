import { createHash } from 'node:crypto';
import { open } from '@ovrel/core';
import { bytesOf } from '../core/src/testing.ts';
import { stories } from './story.ts';

const print = (): string =>
  createHash('sha256')
    .update(
      JSON.stringify(stories(), (_, v: unknown) => (v instanceof Uint8Array ? Buffer.from(v).toString('base64') : v)),
    )
    .digest('hex');

test('the demo is the same every time', () => expect(print()).toBe(print()));

test('every drawing of the demo can be read part by part', async () => {
  for (const story of stories().filter((s) => s.name.endsWith('.svg'))) {
    for (const { content } of story.steps) {
      if (typeof content === 'string' || content instanceof Uint8Array)
        expect((await open(bytesOf(content), story.name)).kinds[0]).toBe('drawing');
    }
  }
});

test('the signs tell a story: eight versions or more, four people, three weeks', () => {
  const signs = stories().find((s) => s.name === 'wayfinding-signs.svg')!;
  expect(signs.steps.length).toBeGreaterThanOrEqual(8);
  expect(new Set(signs.steps.map((s) => s.who)).size).toBe(4);
  expect(Date.parse(signs.steps.at(-1)!.at) - Date.parse(signs.steps[0]!.at)).toBeGreaterThanOrEqual(21 * 86_400_000);
});
