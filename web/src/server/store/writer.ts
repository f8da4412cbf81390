/** Writes a stream of bytes as chunks, inside the caller's transaction. */
import { createHash } from 'node:crypto';
import { Chunker, CHUNKER_VERSION } from '@ovrel/core';
import { one, type Client } from '../db/pool.ts';
import { Problem } from '../problem.ts';
import { ChunkWriter, missingChunks } from './chunks.ts';
import { STORE } from './copy.ts';
import { holdShared } from './locks.ts';

export interface StoredContent {
  readonly id: string;
  /** SHA-256, lower-case hexadecimal. */
  readonly hash: string;
  readonly size: number;
}

export class ContentWriter {
  private readonly chunker = new Chunker();
  private readonly whole = createHash('sha256');
  private readonly chunks: ChunkWriter;
  private written = 0;
  private readonly client: Client;

  constructor(client: Client) {
    this.client = client;
    this.chunks = new ChunkWriter(client);
  }

  get size(): number {
    return this.written;
  }

  async write(bytes: Uint8Array): Promise<void> {
    this.whole.update(bytes);
    this.written += bytes.length;
    for (const chunk of this.chunker.push(bytes)) await this.chunks.add(chunk);
  }

  /** Makes the content, or finds the one that has the same bytes. Until the transaction ends, nothing that it needs is collected. */
  async finish(format: string | null): Promise<StoredContent> {
    const last = this.chunker.finish();
    if (last) await this.chunks.add(last);
    const { manifest, refs } = await this.chunks.finish(), hash = this.whole.digest();
    await holdShared(this.client);
    const made = await one<{ id: string }>(this.client, `
      insert into content (store_id, hash, size, stream_size, chunker, manifest, format) values ($1, $2, $3, $3, $4, $5, $6)
      on conflict (store_id, hash) do nothing returning id`,
    [STORE, hash, this.written, CHUNKER_VERSION, manifest, format]);
    if (made && (await missingChunks(this.client, refs.map((r) => r.id)))) {
      // An upload of many hours met a chunk that nothing needed any more, and it was collected meanwhile.
      throw new Problem(503, 'busy', 'Ovrel was clearing up just now. Nothing was stored; send the file once more.');
    }
    const id = made?.id ?? (await one<{ id: string }>(this.client, 'select id from content where store_id = $1 and hash = $2 for key share', [STORE, hash]))?.id;
    if (id === undefined) throw new Error('a content vanished while it was being written');
    return { id, hash: hash.toString('hex'), size: this.written };
  }
}
