import { randomBytes } from 'node:crypto';
import { chunkHash, CODEC_PLAIN, CODEC_ZSTD, decode, encode } from './codec.ts';
import { packManifest, unpackManifest } from './manifest.ts';

test('chunks come back whatever they are made of; only what compresses is compressed', async () => {
  for (const [bytes, codec] of [
    [Buffer.from('tide '.repeat(5000)), CODEC_ZSTD],
    [randomBytes(50_000), CODEC_PLAIN],
  ] as const) {
    const encoded = await encode(bytes);
    expect(encoded.codec).toBe(codec);
    expect(decode(encoded.codec, Buffer.from(encoded.data), bytes.length).equals(bytes)).toBe(true);
  }
});

test('a chunk that claims to be small cannot unpack to something large', async () => {
  const { data } = await encode(Buffer.alloc(10_000_000));
  expect(() => decode(CODEC_ZSTD, Buffer.from(data), 100)).toThrow();
});

test('hashes are 32 bytes, and differ where contents do', () => {
  expect(chunkHash(Buffer.from('a'))).toHaveLength(32);
  expect(chunkHash(Buffer.from('a')).equals(chunkHash(Buffer.from('b')))).toBe(false);
  expect(chunkHash(Buffer.from('a')).equals(chunkHash(Buffer.from('a')))).toBe(true);
});

test('manifests hold many chunks, also with ids beyond 32 bits', () => {
  const chunks = Array.from({ length: 1000 }, (_, i) => ({ id: 9_000_000_000n + BigInt(i), size: 65_536 + i }));
  expect(unpackManifest(packManifest(chunks))).toEqual(chunks);
  expect(packManifest(chunks)).toHaveLength(12_000);
  expect(unpackManifest(Buffer.alloc(0))).toEqual([]);
});
