import { randomBytes } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { Spool } from './spool.ts';

const MB = 1024 * 1024;
const all = async (spool: Spool): Promise<Buffer> => {
  const pieces: Uint8Array[] = [];
  for await (const piece of spool.read()) pieces.push(piece);
  return Buffer.concat(pieces);
};
const left = (): string[] => readdirSync(tmpdir()).filter((name) => /^ovrel-[0-9a-f]{8}-/.test(name));

test.each([
  ['nothing', 0, 1],
  ['a little', 1000, 7],
  ['just what stays in memory', MB, 64 * 1024],
  ['one byte more', MB + 1, 64 * 1024],
  ['much', 5 * MB + 3, 300_000],
])('%s comes back as it was, twice', async (_, size, piece) => {
  const bytes = randomBytes(size);
  const spool = new Spool();
  for (let at = 0; at < size; at += piece) await spool.write(bytes.subarray(at, at + piece));
  expect(spool.size).toBe(size);
  expect((await all(spool)).equals(bytes)).toBe(true);
  expect((await all(spool)).equals(bytes)).toBe(true);
  await spool.end();
});

test('no file is to be seen, so that none is left by a process that is killed', async () => {
  const before = left();
  const spool = new Spool();
  await spool.write(randomBytes(3 * MB));
  expect(left()).toEqual(before);
  await spool.end();
  await spool.end();
});
