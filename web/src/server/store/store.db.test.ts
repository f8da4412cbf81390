import { createHash, randomBytes } from 'node:crypto';
import { db, transaction } from '../db/pool.ts';
import { countRows, withTestDatabase } from '../testing/database.ts';
import { collect } from './collect.ts';
import { readContent, readWhole } from './reader.ts';
import { ContentWriter, type StoredContent } from './writer.ts';

withTestDatabase();

const store = (bytes: Uint8Array, piece = 100_000): Promise<StoredContent> => transaction(async (client) => {
  const writer = new ContentWriter(client);
  for (let i = 0; i < bytes.length; i += piece) await writer.write(bytes.subarray(i, i + piece));
  return writer.finish(null);
}, 'upload');

const collected = async (pieces: AsyncIterable<Uint8Array>): Promise<Buffer> => {
  const out: Uint8Array[] = [];
  for await (const piece of pieces) out.push(piece);
  return Buffer.concat(out);
};

test('bytes come back identical: empty, small, compressible, random and large', async () => {
  for (const bytes of [Buffer.alloc(0), Buffer.from('x'), Buffer.from('landing '.repeat(200_000)), randomBytes(300_000), randomBytes(6_000_000)]) {
    const content = await store(bytes);
    expect(content).toMatchObject({ size: bytes.length, hash: createHash('sha256').update(bytes).digest('hex') });
    expect((await readWhole(content.id)).equals(bytes)).toBe(true);
  }
});

test('any range comes back, also across chunks and queries', async () => {
  const bytes = randomBytes(5_000_000), { id } = await store(bytes);
  for (const [from, to] of [[0, 1], [4_999_999, 5_000_000], [60_000, 70_000], [1_000_000, 4_900_001], [0, 5_000_000], [0, 99_000_000]] as const) {
    expect((await collected(readContent(id, from, to))).equals(bytes.subarray(from, to))).toBe(true);
  }
});

test('the same bytes are one content; a near copy stores only what is new', async () => {
  const bytes = randomBytes(3_000_000), first = await store(bytes), chunks = await countRows('chunk');
  expect((await store(bytes, 7_777)).id).toBe(first.id);
  expect(await countRows('chunk')).toBe(chunks);
  await store(Buffer.concat([bytes.subarray(0, 1_500_000), Buffer.from('one pile more'), bytes.subarray(1_500_000)]));
  expect((await countRows('chunk')) - chunks).toBeLessThanOrEqual(4);
});

test('an upload that fails leaves nothing', async () => {
  const before = [await countRows('chunk'), await countRows('content')];
  await expect(transaction(async (client) => {
    const writer = new ContentWriter(client);
    await writer.write(randomBytes(6_000_000));
    throw new Error('line cut');
  }, 'upload')).rejects.toThrow('line cut');
  expect([await countRows('chunk'), await countRows('content')]).toEqual(before);
});

test('the same content from many senders at once is stored once and stays whole', async () => {
  const bytes = randomBytes(2_000_000);
  const all = await Promise.all(Array.from({ length: 6 }, () => store(bytes)));
  expect(new Set(all.map((c) => c.id)).size).toBe(1);
  expect((await readWhole(all[0]!.id)).equals(bytes)).toBe(true);
});

test('chunks are spread over the partitions, each where its hash says', async () => {
  await store(randomBytes(8_000_000));
  const { rows } = await db().query<{ wrong: string; partitions: string }>('select count(*) filter (where bucket <> get_byte(hash, 0) or bucket <> id & 255) as wrong, count(distinct tableoid) as partitions from chunk');
  expect(rows[0]!.wrong).toBe('0');
  expect(Number(rows[0]!.partitions)).toBeGreaterThan(8);
});

describe('damage in the database is never served as good', () => {
  test.each([
    ['a flipped byte', `update chunk set data = set_byte(data, 9, get_byte(data, 9) # 1) where id = $1`],
    ['a chunk that is gone', 'delete from chunk where id = $1'],
  ])('%s', async (_, damage) => {
    const bytes = randomBytes(400_000), { id } = await store(bytes);
    const { rows } = await db().query<{ id: string }>('select id from chunk where hash in (select hash from chunk order by id >> 8 desc limit 1)');
    await db().query(damage, [rows[0]?.id]);
    await expect(readWhole(id)).rejects.toThrow(/damaged and was not given out/);
    await expect(collected(readContent(id, 0, 400_000))).rejects.toThrow(/damaged/);
  });
});

describe('the collector', () => {
  test('removes what nothing needs once it is old enough, and nothing else', async () => {
    const bytes = randomBytes(1_000_000), { id } = await store(bytes);
    await collect(undefined, 0);
    // A content that no version has is spare; its chunks go with it.
    await expect(readWhole(id)).rejects.toThrow(/no such content/);
    expect(await countRows('chunk')).toBe(0);
    const kept = await store(bytes);
    await collect(undefined, 60);
    expect((await readWhole(kept.id)).equals(bytes)).toBe(true);
  });
});
