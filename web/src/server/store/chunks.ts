/** Chunks in the database: looked up by hash and copied in while bytes arrive, read by id and checked. */
import type pg from 'pg';
import { many, type Client, type Db } from '../db/pool.ts';
import { chunkHash, decode, encode, type Effort } from './codec.ts';
import { bucketOf, copyChunksIn, copyChunksOut, STORE, type ChunkRow } from './copy.ts';
import { packManifest, type ChunkRef } from './manifest.ts';

/** A chunk that is to be stored. */
export interface NewChunk {
  readonly bytes: Uint8Array;
  readonly hash: Buffer;
}

/** Stores chunks in order, each once. */
export class ChunkWriter {
  private readonly known = new Map<string, bigint>();
  private readonly refs: ChunkRef[] = [];
  private readonly client: Client;
  private readonly level: Effort;

  constructor(client: Client, level: Effort = 'fast') {
    this.client = client;
    this.level = level;
  }

  get manifest(): { manifest: Buffer; refs: readonly ChunkRef[] } {
    return { manifest: packManifest(this.refs), refs: this.refs };
  }

  /** The chunks that come next; one call after the other. */
  async store(chunks: readonly NewChunk[]): Promise<void> {
    const batch = chunks.map((chunk) => ({ ...chunk, key: chunk.hash.toString('latin1') }));
    const unknown = batch.filter((p) => !this.known.has(p.key));
    if (unknown.length) {
      const rows = await many<{ id: string; hash: Buffer }>(
        this.client,
        `
        select min(id) as id, hash from chunk where store_id = $1 and bucket = any($2::smallint[]) and hash = any($3)
          and not exists (select 1 from condemned d where d.store_id = chunk.store_id and d.chunk_id = chunk.id) group by hash`,
        [STORE, [...new Set(unknown.map((p) => p.hash[0]))], unknown.map((p) => p.hash)],
      );
      for (const row of rows) this.known.set(row.hash.toString('latin1'), BigInt(row.id));
      await this.insert(unknown.filter((p) => !this.known.has(p.key)));
    }
    for (const p of batch) {
      const id = this.known.get(p.key);
      if (id === undefined) throw new Error('a chunk was not stored');
      this.refs.push({ id, size: p.bytes.length });
    }
  }

  private async insert(batch: readonly (NewChunk & { key: string })[]): Promise<void> {
    const fresh = [...new Map(batch.map((p) => [p.key, p])).values()];
    if (!fresh.length) return;
    const [encoded, ids] = await Promise.all([
      Promise.all(fresh.map((p) => encode(p.bytes, this.level))),
      many<{ id: string }>(this.client, `select nextval('chunk_id') as id from generate_series(1, $1)`, [fresh.length]),
    ]);
    await copyChunksIn(
      this.client,
      fresh.map((p, i): ChunkRow => {
        const id = (BigInt((ids[i] as { id: string }).id) << 8n) | BigInt(p.hash[0] as number);
        this.known.set(p.key, id);
        return { id, hash: p.hash, size: p.bytes.length, ...(encoded[i] as { codec: number; data: Buffer }) };
      }),
    );
  }
}

/** Which of these chunks are no longer there. */
export async function missingChunks(client: Db, ids: readonly bigint[]): Promise<number> {
  const unique = [...new Set(ids)];
  if (!unique.length) return 0;
  const rows = await many<{ n: string }>(
    client,
    'select count(*) as n from chunk where store_id = $1 and bucket = any($2::smallint[]) and id = any($3::bigint[])',
    [STORE, [...new Set(unique.map(bucketOf))], unique],
  );
  return unique.length - Number(rows[0]?.n);
}

/** A chunk is missing or is not what its hash says. */
export class ChunkDamaged extends Error {
  readonly id: bigint;

  constructor(id: bigint, how: string) {
    super(`chunk ${id} ${how}`);
    this.id = id;
  }
}

/** Where chunks are read: from any connection of a pool, or within somebody's transaction. */
export type ChunkSource = pg.Pool | Client;

/** The bytes of chunks, each checked against its hash. Throws ChunkDamaged. */
export async function readChunks(from: ChunkSource, refs: readonly ChunkRef[]): Promise<Map<bigint, Buffer>> {
  const ids = refs.map((r) => r.id);
  const rows = await ('release' in from
    ? copyChunksOut(from, ids)
    : withClient(from, (client) => copyChunksOut(client, ids)));
  const found = new Map<bigint, Buffer>();
  for (const row of rows) {
    const bytes = decoded(row);
    if (bytes?.length !== row.size || !chunkHash(bytes).equals(row.hash))
      throw new ChunkDamaged(row.id, 'does not match its hash');
    found.set(row.id, bytes);
  }
  for (const { id, size } of refs) {
    const bytes = found.get(id);
    if (!bytes) throw new ChunkDamaged(id, 'is missing');
    if (bytes.length !== size) throw new ChunkDamaged(id, 'has another size than the content says');
  }
  return found;
}

/** Undefined where the data cannot be unpacked. */
export function decoded(row: Pick<ChunkRow, 'codec' | 'data' | 'size'>): Buffer | undefined {
  try {
    return decode(row.codec, row.data, row.size);
  } catch {
    return undefined;
  }
}

async function withClient<T>(pool: pg.Pool, work: (client: Client) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | boolean = true;
  try {
    const result = await work(client);
    broken = false;
    return result;
  } finally {
    // A COPY that broke off leaves the connection in the middle of an answer.
    client.release(broken);
  }
}
