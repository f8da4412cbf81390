/** A document that breaks the engine is not read; every other one after it is, as if nothing had been. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { circularDocument, selfInvokingDocument } from '../../../fuzz/hostile.ts';
import { open } from '../kinds/content.ts';
import { Exhausted } from '../model/problem.ts';
import './engines.ts';

const sound = new Uint8Array(readFileSync(join(__dirname, '../../../demo/real/drawing-by-program.pdf')));
const parts = async (bytes: Uint8Array): Promise<number | undefined> =>
  (await open(bytes, 'x.pdf')).design?.parts.length;

test('a form that invokes itself takes its engine with it, and no more', async () => {
  const before = await parts(sound);
  for (let i = 0; i < 3; i++) {
    await expect(open(selfInvokingDocument(), 'hostile.pdf')).rejects.toBeInstanceOf(Exhausted);
    expect(await parts(sound)).toBe(before);
  }
});

test('its picture is refused in the same way', async () => {
  const hostile = selfInvokingDocument();
  const { format } = await open(sound, 'x.pdf');
  await expect(async () => format?.draw?.(hostile, 0, 300)).rejects.toBeInstanceOf(Exhausted);
  const again = await open(sound, 'x.pdf');
  const drawn = await again.format?.draw?.(sound, 0, 300);
  expect(new Set(drawn?.data).size).toBeGreaterThan(2);
});

test('pages that hold themselves end, and are damage', async () => {
  const content = await open(circularDocument(), 'circle.pdf');
  expect(content.design?.parts ?? []).toEqual([]);
  expect((await open(sound, 'x.pdf')).problem).toBeUndefined();
});
