/** Reads contents back, each chunk checked against its hash before a byte of it is given out. */
import { createHash } from 'node:crypto';
import { db, many, one, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { Problem } from '../problem.ts';
import { chunkHash, decode } from './codec.ts';
import { unpackManifest, type ChunkRef } from './manifest.ts';

export interface ContentRow {
  readonly id: string;
  readonly hash: Buffer;
  readonly size: string;
  readonly manifest: Buffer;
}

interface ChunkRow {
  readonly id: string;
  readonly hash: Buffer;
  readonly size: number;
  readonly codec: number;
  readonly data: Buffer;
}

/** Chunks asked for in one query, in bytes of content. */
const WINDOW = 2 * 1024 * 1024;

const damaged = (): Problem => new Problem(500, 'damaged', 'The stored content is damaged and was not given out. An administrator has to restore it from a backup.');

/** The bytes from `start` up to but not including `end`. Throws a Problem where the store is damaged. */
export async function* readContent(contentId: string, start = 0, end = Infinity, client: Db = db()): AsyncGenerator<Buffer, void> {
  const content = await one<ContentRow>(client, 'select id, hash, size, manifest from content where id = $1', [contentId]);
  if (!content) throw new Problem(404, 'not-found', 'There is no such content.');
  const size = Number(content.size), stop = Math.min(end, size);
  const whole = start === 0 && stop === size ? createHash('sha256') : undefined;
  let held: Buffer | undefined;
  let position = 0;
  const parts = windows(unpackManifest(content.manifest), start, stop);
  const fetch = (k: number): Promise<ChunkRow[]> => {
    const rows = many<ChunkRow>(client, 'select id, hash, size, codec, data from chunk where id = any($1::bigint[])', [parts[k]?.chunks.map((c) => c.id) ?? []]);
    // It may be asked for and never awaited, if the reader goes away.
    rows.catch(() => undefined);
    return rows;
  };
  let ahead = fetch(0);
  for (const [k, window] of parts.entries()) {
    const rows = await ahead;
    if (k + 1 < parts.length) ahead = fetch(k + 1);
    const byId = new Map(rows.map((row) => [row.id, row]));
    position = window.start;
    for (const { id, size: length } of window.chunks) {
      const row = byId.get(String(id));
      const bytes = row && (await decode(row.codec, row.data, row.size).catch(() => undefined));
      if (!row || !bytes || bytes.length !== length || !chunkHash(bytes).equals(row.hash)) {
        log.error({ contentId, chunk: String(id) }, 'a stored chunk is missing or does not match its hash');
        throw damaged();
      }
      whole?.update(bytes);
      // The last piece is held back until the whole has been checked.
      if (held) yield held;
      held = bytes.subarray(Math.max(0, start - position), Math.min(length, stop - position));
      position += length;
    }
  }
  if (whole && !whole.digest().equals(content.hash)) {
    log.error({ contentId }, 'a stored content does not match its hash');
    throw damaged();
  }
  if (held?.length) yield held;
}

/** The chunks that overlap start..stop, in groups, each with the offset of its first byte. */
function windows(chunks: readonly ChunkRef[], start: number, stop: number): { start: number; chunks: ChunkRef[] }[] {
  const out: { start: number; chunks: ChunkRef[] }[] = [];
  let position = 0, bytes = 0;
  for (const chunk of chunks) {
    if (position + chunk.size > start && position < stop) {
      let current = out.at(-1);
      if (!current || bytes >= WINDOW) {
        current = { start: position, chunks: [] };
        out.push(current);
        bytes = 0;
      }
      current.chunks.push(chunk);
      bytes += chunk.size;
    }
    position += chunk.size;
  }
  return out;
}

/** The whole content in memory; for contents within the read limit. */
export async function readWhole(contentId: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of readContent(contentId)) pieces.push(piece);
  return Buffer.concat(pieces);
}
