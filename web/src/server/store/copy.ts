/** PostgreSQL's binary COPY format (documentation, COPY, "Binary Format"), for the few types that chunks have. */
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import type { Client } from '../db/pool.ts';

const HEADER = Buffer.concat([Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1'), Buffer.alloc(8)]);
const END = Buffer.from([0xff, 0xff]);

export const STORE = 1;

export interface ChunkRow {
  readonly id: bigint;
  readonly hash: Buffer;
  readonly size: number;
  readonly codec: number;
  readonly data: Buffer;
}

/** The bucket is the low byte of the id. */
export const bucketOf = (id: bigint): number => Number(id & 255n);

export async function copyChunksIn(client: Client, rows: readonly ChunkRow[]): Promise<void> {
  const copy = client.query(
    copyFrom('copy chunk (store_id, id, bucket, hash, size, codec, stored, data) from stdin (format binary)'),
  );
  await pipeline(Readable.from([HEADER, ...rows.flatMap(copyRow), END]), copy);
}

function copyRow({ id, hash, size, codec, data }: ChunkRow): [Buffer, Buffer] {
  const head = Buffer.alloc(2 + 8 + 12 + 6 + 36 + 8 + 6 + 8 + 4);
  let at = head.writeInt16BE(8, 0);
  at = head.writeInt32BE(STORE, head.writeInt32BE(4, at));
  at = head.writeBigInt64BE(id, head.writeInt32BE(8, at));
  at = head.writeInt16BE(bucketOf(id), head.writeInt32BE(2, at));
  at = head.writeInt32BE(32, at);
  at += hash.copy(head, at);
  at = head.writeInt32BE(size, head.writeInt32BE(4, at));
  at = head.writeInt16BE(codec, head.writeInt32BE(2, at));
  at = head.writeInt32BE(data.length, head.writeInt32BE(4, at));
  head.writeInt32BE(data.length, at);
  return [head, data];
}

/**
 * Chunks by id; those that are missing are missing from the answer. Ids are numbers of our own, so they may stand in
 * the text.
 */
export async function copyChunksOut(client: Client, ids: readonly bigint[]): Promise<ChunkRow[]> {
  if (!ids.length) return [];
  const buckets = [...new Set(ids.map(bucketOf))].join(',');
  const copy = client.query(
    copyTo(`copy (
    select id, hash, size, codec, data from chunk
    where store_id = ${STORE} and bucket = any('{${buckets}}'::smallint[]) and id = any('{${ids.join(',')}}'::bigint[])
  ) to stdout (format binary)`),
  );
  const pieces: Buffer[] = [];
  for await (const piece of copy) pieces.push(piece as Buffer);
  return [...parseRows(Buffer.concat(pieces))];
}

function* parseRows(bytes: Buffer): Generator<ChunkRow> {
  let at = 15 + 4 + bytes.readInt32BE(15);
  for (;;) {
    const fields = bytes.readInt16BE(at);
    at += 2;
    if (fields === -1) return;
    const id = bytes.readBigInt64BE(at + 4);
    at += 12;
    const hashSize = bytes.readInt32BE(at);
    const hash = bytes.subarray(at + 4, at + 4 + hashSize);
    at += 4 + hashSize;
    const size = bytes.readInt32BE(at + 4);
    const codec = bytes.readInt16BE(at + 12);
    at += 14;
    const length = bytes.readInt32BE(at);
    const data = bytes.subarray(at + 4, at + 4 + length);
    at += 4 + length;
    yield { id, hash, size, codec, data };
  }
}
