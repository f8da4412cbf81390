import { createHash, randomBytes } from 'node:crypto';
import { chunkEnds, chunksOf } from './chunker.ts';

/** As a stream is cut: what is undecided waits for the next piece. */
function chunks(bytes: Uint8Array, piece: number): Uint8Array[] {
  const out: Uint8Array[] = [];
  let from = 0;
  for (let to = Math.min(piece, bytes.length); ; to = Math.min(to + piece, bytes.length)) {
    const last = to === bytes.length;
    const part = bytes.subarray(from, to);
    let at = 0;
    for (const end of chunkEnds(part, last)) {
      out.push(part.subarray(at, end));
      at = end;
    }
    from += at;
    if (last) return out;
  }
}
const hashes = (list: readonly Uint8Array[]): string[] => list.map((c) => createHash('sha256').update(c).digest('hex'));

// Fixed, so that chunk borders are the same in every run.
const data = Buffer.concat(Array.from({ length: 120_000 }, (_, i) => createHash('sha256').update(String(i)).digest()));

test('the chunks put together are the content', () =>
  expect(Buffer.concat(chunks(data, 10_000)).equals(data)).toBe(true));

test('borders do not depend on how the bytes arrive', () =>
  expect(hashes(chunks(data, 7_777))).toEqual(hashes(chunks(data, data.length))));

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

test('borders lie where they always did: they are part of what is stored', () => {
  // Counted over the borders' places, so that a changed table, mask or limit shows.
  expect(
    createHash('sha256')
      .update(
        chunksOf(data)
          .map((c) => c.length)
          .join(' '),
      )
      .digest('hex'),
  ).toBe('cf4c8bc4cc0439c90f44b1ae184b4294c009b85bf760b4928778068d1e3a2a69');
});

test('monotonous bytes are cut at the limit', () =>
  expect(chunksOf(new Uint8Array(1_200_000)).map((c) => c.length)).toEqual([524_288, 524_288, 151_424]));

test('nothing in, nothing out', () => {
  expect(chunksOf(new Uint8Array())).toEqual([]);
  expect(chunkEnds(new Uint8Array(10), false)).toEqual([]);
  expect(chunkEnds(new Uint8Array(10), true)).toEqual([10]);
});
