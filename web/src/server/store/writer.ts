/** Writes a stream of bytes as chunks, inside the caller's transaction. */
import { createHash } from 'node:crypto';
import { CHUNKER_VERSION } from '@ovrel/core';
import { runTask } from '../compute/pool.ts';
import { cutBytes, type Cut } from './cutting.ts';
import { one, type Client } from '../db/pool.ts';
import { ChunkWriter, missingChunks, type NewChunk } from './chunks.ts';
import { HASH_BYTES } from './codec.ts';
import { STORE } from './copy.ts';
import { holdShared } from './locks.ts';

/** Bytes that are cut into chunks and stored in one go. */
const BLOCK = 4 * 1024 * 1024;
/** Less than this is cut on this thread: handing it over would take longer. */
const SMALL = 512 * 1024;

export interface StoredContent {
  readonly id: string;
  /** SHA-256, lower-case hexadecimal. */
  readonly hash: string;
  readonly size: number;
}

/** While one block arrives, the one before it is cut by another thread, and the one before that is stored. */
export class ContentWriter {
  private readonly whole = createHash('sha256');
  private readonly chunks: ChunkWriter;
  private readonly client: Client;
  private arrived: Uint8Array[] = [];
  private arrivedBytes = 0;
  private written = 0;
  /** Ends with the bytes behind the last chunk of the block that was cut last. */
  private cutting: Promise<Uint8Array> = Promise.resolve(new Uint8Array());
  private storing: Promise<void> = Promise.resolve();
  /** Memory of blocks that have been stored. */
  private readonly spare: ArrayBuffer[] = [];

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
    this.arrived.push(bytes);
    this.arrivedBytes += bytes.length;
    if (this.arrivedBytes >= BLOCK) await this.passOn(false);
  }

  /**
   * Makes the content, or finds the one that has the same bytes. Until the transaction ends, nothing that it needs is
   * collected.
   */
  async finish(format: string | null): Promise<StoredContent> {
    await this.passOn(true);
    await this.cutting;
    await this.storing;
    const { manifest, refs } = this.chunks.manifest;
    const hash = this.whole.digest();
    await holdShared(this.client);
    const made = await one<{ id: string }>(
      this.client,
      `
      insert into content (store_id, hash, size, stream_size, chunker, manifest, format) values ($1, $2, $3, $3, $4, $5, $6)
      on conflict (store_id, hash) do nothing returning id`,
      [STORE, hash, this.written, CHUNKER_VERSION, manifest, format],
    );
    if (
      made &&
      (await missingChunks(
        this.client,
        refs.map((r) => r.id),
      ))
    )
      throw new Error('chunks were collected while a content took them up');
    const id =
      made?.id ??
      (
        await one<{ id: string }>(
          this.client,
          'select id from content where store_id = $1 and hash = $2 for key share',
          [STORE, hash],
        )
      )?.id;
    if (id === undefined) throw new Error('a content vanished while it was being written');
    return { id, hash: hash.toString('hex'), size: this.written };
  }

  /**
   * Gives what has arrived to be cut, as soon as the block before has been; and that one to be stored, as soon as
   * there is one less.
   */
  private async passOn(last: boolean): Promise<void> {
    const rest = await this.cutting;
    const block = this.join(rest);
    const cut = block.length < SMALL ? Promise.resolve(cutBytes(block, last)) : runTask('cut', { bytes: block, last });
    // A failure is met at the next block.
    await this.storing;
    this.cutting = cut.then((made) => this.keep(made));
    this.cutting.catch(() => undefined);
  }

  private keep(cut: Cut): Uint8Array {
    const { bytes, ends } = cut;
    const rest = bytes.slice(ends.at(-1) ?? 0);
    this.storing = this.chunks.store(chunksOf(cut)).then(() => {
      this.spare.push(bytes.buffer as ArrayBuffer);
    });
    this.storing.catch(() => undefined);
    return rest;
  }

  /** The rest of the block before and what has arrived, in memory of its own. */
  private join(rest: Uint8Array): Uint8Array {
    const size = rest.length + this.arrivedBytes;
    const at = this.spare.findIndex((memory) => memory.byteLength >= size);
    const memory =
      at >= 0 ? (this.spare.splice(at, 1)[0] as ArrayBuffer) : new ArrayBuffer(size < BLOCK ? size : size + BLOCK / 4);
    const block = new Uint8Array(memory, 0, size);
    block.set(rest);
    let to = rest.length;
    for (const piece of this.arrived) {
      block.set(piece, to);
      to += piece.length;
    }
    this.arrived = [];
    this.arrivedBytes = 0;
    return block;
  }
}

const chunksOf = ({ bytes, ends, hashes }: Cut): NewChunk[] =>
  ends.map((end, i) => ({
    bytes: bytes.subarray(ends[i - 1] ?? 0, end),
    hash: Buffer.from(hashes.buffer, hashes.byteOffset + i * HASH_BYTES, HASH_BYTES),
  }));
