import { createHash, randomBytes } from 'node:crypto';
import { Chunker } from './chunker.ts';

function chunks(bytes: Uint8Array, piece: number): Uint8Array[] {
  const chunker = new Chunker(), out: Uint8Array[] = [];
  for (let i = 0; i < bytes.length; i += piece) out.push(...chunker.push(bytes.subarray(i, i + piece)));
  const last = chunker.finish();
  return last ? [...out, last] : out;
}
const hashes = (list: readonly Uint8Array[]): string[] => list.map((c) => createHash('sha256').update(c).digest('hex'));

// Fixed, so that chunk borders are the same in every run.
const data = Buffer.concat(Array.from({ length: 120_000 }, (_, i) => createHash('sha256').update(String(i)).digest()));

test('the chunks put together are the content', () => expect(Buffer.concat(chunks(data, 10_000)).equals(data)).toBe(true));

test('borders do not depend on how the bytes arrive', () => expect(hashes(chunks(data, 777))).toEqual(hashes(chunks(data, data.length))));

test('sizes keep within 64 and 512 KiB and average near 128', () => {
  const sizes = chunks(data, 65_536).map((c) => c.length);
  expect(Math.max(...sizes)).toBeLessThanOrEqual(524_288);
  expect(Math.min(...sizes.slice(0, -1))).toBeGreaterThanOrEqual(65_536);
  expect(data.length / sizes.length).toBeGreaterThan(90_000);
  expect(data.length / sizes.length).toBeLessThan(220_000);
});

test('a few bytes put in near the front leave most chunks as they were', () => {
  const before = new Set(hashes(chunks(data, 65_536)));
  const after = hashes(chunks(Buffer.concat([data.subarray(0, 1000), randomBytes(37), data.subarray(1000)]), 65_536));
  expect(after.filter((h) => !before.has(h)).length).toBeLessThanOrEqual(3);
});

test('nothing in, nothing out', () => expect(chunks(new Uint8Array(), 1)).toEqual([]));
