/** Writes a stream of bytes as chunks, inside the caller's transaction. */
import { createHash } from 'node:crypto';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { Chunker, CHUNKER_VERSION } from '@ovrel/core';
import { from as copyFrom } from 'pg-copy-streams';
import { many, one, type Client } from '../db/pool.ts';
import { chunkHash, encode } from './codec.ts';
import { packManifest, type ChunkRef } from './manifest.ts';

export interface StoredContent {
  readonly id: string;
  /** SHA-256, lower-case hexadecimal. */
  readonly hash: string;
  readonly size: number;
}

/** Chunks are looked up and copied in batches of about this many bytes. */
const BATCH = 4 * 1024 * 1024;

interface Pending {
  readonly bytes: Uint8Array;
  readonly hash: Buffer;
}

export class ContentWriter {
  private readonly chunker = new Chunker();
  private readonly whole = createHash('sha256');
  private readonly known = new Map<string, bigint>();
  private readonly manifest: ChunkRef[] = [];
  private pending: Pending[] = [];
  private pendingBytes = 0;
  private written = 0;
  private storing: Promise<void> = Promise.resolve();
  private readonly client: Client;

  constructor(client: Client) {
    this.client = client;
  }

  get size(): number {
    return this.written;
  }

  async write(bytes: Uint8Array): Promise<void> {
    this.whole.update(bytes);
    this.written += bytes.length;
    for (const chunk of this.chunker.push(bytes)) this.add(chunk);
    if (this.pendingBytes < BATCH) return;
    // One batch is stored while the next arrives; a failure is met at the next batch.
    await this.storing;
    this.storing = this.flush();
    this.storing.catch(() => undefined);
  }

  /** Makes the content, or finds the one that has the same bytes; nothing new stays in that case. */
  async finish(format: string | null): Promise<StoredContent> {
    const last = this.chunker.finish();
    if (last) this.add(last);
    await this.storing;
    await this.flush();
    const hash = this.whole.digest();
    const made = await one<{ id: string }>(this.client, `
      insert into content (hash, size, chunker, manifest, format) values ($1, $2, $3, $4, $5)
      on conflict (hash) do nothing returning id`,
    [hash, this.written, CHUNKER_VERSION, packManifest(this.manifest), format]);
    const id = made?.id ?? (await one<{ id: string }>(this.client, 'select id from content where hash = $1', [hash]))?.id;
    if (id === undefined) throw new Error('a content vanished while it was being written');
    return { id, hash: hash.toString('hex'), size: this.written };
  }

  private add(bytes: Uint8Array): void {
    this.pending.push({ bytes, hash: chunkHash(bytes) });
    this.pendingBytes += bytes.length;
  }

  private async flush(): Promise<void> {
    if (!this.pending.length) return;
    const batch = this.pending;
    this.pending = [];
    this.pendingBytes = 0;
    const unknown = batch.filter((p) => !this.known.has(p.hash.toString('base64')));
    if (unknown.length) {
      const rows = await many<{ id: string; hash: Buffer }>(this.client,
        'select min(id) as id, hash from chunk where hash = any($1) group by hash', [unknown.map((p) => p.hash)]);
      for (const row of rows) this.known.set(row.hash.toString('base64'), BigInt(row.id));
      await this.insert(unknown.filter((p) => !this.known.has(p.hash.toString('base64'))));
    }
    for (const p of batch) {
      const id = this.known.get(p.hash.toString('base64'));
      if (id === undefined) throw new Error('a chunk was not stored');
      this.manifest.push({ id, size: p.bytes.length });
    }
  }

  private async insert(batch: readonly Pending[]): Promise<void> {
    const fresh = [...new Map(batch.map((p) => [p.hash.toString('base64'), p])).values()];
    if (!fresh.length) return;
    const [encoded, ids] = await Promise.all([
      Promise.all(fresh.map((p) => encode(p.bytes))),
      many<{ id: string }>(this.client, `select nextval('chunk_id') as id from generate_series(1, $1)`, [fresh.length]),
    ]);
    const rows = fresh.map((p, i) => {
      const id = BigInt((ids[i] as { id: string }).id), { codec, data } = encoded[i] as { codec: number; data: Uint8Array };
      this.known.set(p.hash.toString('base64'), id);
      return copyRow(id, p.hash, p.bytes.length, codec, data);
    });
    const copy = this.client.query(copyFrom('copy chunk (id, hash, size, codec, data) from stdin (format binary)'));
    await pipeline(Readable.from([COPY_HEADER, ...rows, COPY_END]), copy);
  }
}

// PostgreSQL's binary COPY format: signature, flags, no header extension; rows; −1.
const COPY_HEADER = Buffer.concat([Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1'), Buffer.alloc(8)]);
const COPY_END = Buffer.from([0xff, 0xff]);

function copyRow(id: bigint, hash: Buffer, size: number, codec: number, data: Uint8Array): Buffer {
  const head = Buffer.alloc(2 + 12 + 4 + 32 + 8 + 6 + 4);
  let at = head.writeInt16BE(5, 0);
  at = head.writeInt32BE(8, at);
  at = head.writeBigInt64BE(id, at);
  at = head.writeInt32BE(32, at);
  at += hash.copy(head, at);
  at = head.writeInt32BE(4, at);
  at = head.writeInt32BE(size, at);
  at = head.writeInt32BE(2, at);
  at = head.writeInt16BE(codec, at);
  head.writeInt32BE(data.length, at);
  return Buffer.concat([head, data]);
}
