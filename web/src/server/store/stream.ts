/**
 * The stored stream of a content: chunks in order, or a chain of deltas down to one. Any range, a bounded number of
 * rows.
 */
import { compose, cut, unpackDelta, type Pieces } from '@ovrel/core';
import { db, many } from '../db/pool.ts';
import { readChunks, type ChunkSource } from './chunks.ts';
import { STORE } from './copy.ts';
import { unpackManifest, type ChunkRef } from './manifest.ts';

/** Bytes of the stream that are had in one go. */
const WINDOW = 2 * 1024 * 1024;
/** Bytes of root chunks that are kept for the next windows. */
const CACHE = 12 * 1024 * 1024;

interface LinkRow {
  readonly id: string;
  readonly base_id: string | null;
  readonly manifest: Buffer;
  readonly revision: string;
}

export class StoredStream {
  /** The content's revision that this is the stream of: another one may be laid out in another way. */
  readonly revision: string;
  private readonly chunks: readonly ChunkRef[];
  private readonly starts: Float64Array;
  private readonly pieces: Pieces | undefined;
  private readonly pool: Uint8Array;
  private readonly from: ChunkSource;
  private readonly cache = new Map<bigint, Buffer>();
  private cached = 0;

  private constructor(
    from: ChunkSource,
    revision: string,
    chunks: readonly ChunkRef[],
    pieces: Pieces | undefined,
    pool: Uint8Array,
  ) {
    this.from = from;
    this.revision = revision;
    this.chunks = chunks;
    this.pieces = pieces;
    this.pool = pool;
    this.starts = new Float64Array(chunks.length);
    let at = 0;
    chunks.forEach((chunk, i) => {
      this.starts[i] = at;
      at += chunk.size;
    });
  }

  /** Reads the chain of deltas and joins it. Throws ChunkDamaged. */
  static async open(contentId: string, from: ChunkSource = db()): Promise<StoredStream> {
    const links = await many<LinkRow & Record<string, unknown>>(
      from,
      `
      with recursive chain as (
        select id, base_id, manifest, revision, 0 as step from content where store_id = $1 and id = $2
        union all
        select c.id, c.base_id, c.manifest, c.revision, chain.step + 1 from chain join content c on c.store_id = $1 and c.id = chain.base_id
      )
      select id, base_id, manifest, revision from chain order by step`,
      [STORE, contentId],
    );
    const revision = links[0]?.revision ?? '';
    const root = links.pop();
    if (!root || root.base_id !== null) throw new RangeError('a content has no root');
    const chunks = unpackManifest(root.manifest);
    if (!links.length) return new StoredStream(from, revision, chunks, undefined, new Uint8Array());
    const parts = links.map((link) => unpackManifest(link.manifest));
    const bytes = await readChunks(from, parts.flat());
    let pieces: Pieces | undefined;
    const pools: Uint8Array[] = [];
    let poolSize = 0;
    for (const part of parts) {
      const delta = unpackDelta(Buffer.concat(part.map((ref) => bytes.get(ref.id) ?? Buffer.alloc(0))));
      pieces = pieces ? compose(pieces, delta.pieces, poolSize) : delta.pieces;
      pools.push(delta.pool);
      poolSize += delta.pool.length;
    }
    return new StoredStream(from, revision, chunks, pieces, Buffer.concat(pools));
  }

  /** Chunks of the root that reading everything from start to end would fetch, counting those fetched again. */
  get effort(): { fetches: number; chunks: number } {
    if (!this.pieces) return { fetches: this.chunks.length, chunks: this.chunks.length };
    let fetches = 0;
    let window = -1;
    let at = 0;
    let seen = new Set<number>();
    for (let i = 0; i < this.pieces.count; i++) {
      const from = this.pieces.from[i] as number;
      const length = this.pieces.length[i] as number;
      if (Math.floor(at / WINDOW) !== window) {
        window = Math.floor(at / WINDOW);
        fetches += seen.size;
        seen = new Set();
      }
      if (from >= 0)
        for (let k = this.chunkAt(from); k < this.chunks.length && (this.starts[k] as number) < from + length; k++)
          seen.add(k);
      at += length;
    }
    return { fetches: fetches + seen.size, chunks: this.chunks.length };
  }

  /** The bytes from `start` up to but not including `end`, in pieces. */
  async *read(start: number, end: number): AsyncGenerator<Buffer, void> {
    if (end <= start) return;
    if (this.pieces) yield* this.readPieces(this.pieces, start, end);
    else yield* this.readRoot(start, end);
  }

  async whole(start: number, end: number): Promise<Buffer> {
    const parts: Buffer[] = [];
    for await (const part of this.read(start, end)) parts.push(part);
    return Buffer.concat(parts);
  }

  private async *readRoot(start: number, end: number): AsyncGenerator<Buffer, void> {
    const windows: { from: number; to: number }[] = [];
    for (
      let k = this.chunkAt(start), bytes = Infinity;
      k < this.chunks.length && (this.starts[k] as number) < end;
      k++
    ) {
      if (bytes >= WINDOW) {
        windows.push({ from: k, to: k });
        bytes = 0;
      }
      (windows.at(-1) as { to: number }).to = k + 1;
      bytes += (this.chunks[k] as ChunkRef).size;
    }
    const fetch = (w: { from: number; to: number } | undefined): Promise<Map<bigint, Buffer>> => {
      const read = w
        ? readChunks(this.from, this.chunks.slice(w.from, w.to))
        : Promise.resolve(new Map<bigint, Buffer>());
      // It may be asked for and never awaited, if the reader goes away.
      read.catch(() => undefined);
      return read;
    };
    let ahead = fetch(windows[0]);
    for (const [i, window] of windows.entries()) {
      const found = await ahead;
      if (i + 1 < windows.length) ahead = fetch(windows[i + 1]);
      for (let k = window.from; k < window.to; k++) {
        const chunk = this.chunks[k] as ChunkRef;
        const at = this.starts[k] as number;
        yield (found.get(chunk.id) as Buffer).subarray(Math.max(0, start - at), Math.min(chunk.size, end - at));
      }
    }
  }

  private async *readPieces(all: Pieces, start: number, end: number): AsyncGenerator<Buffer, void> {
    const starts = all.starts();
    for (let at = start; at < end; at += WINDOW)
      yield await this.assemble(cut(all, at, Math.min(at + WINDOW, end), starts));
  }

  private async assemble(pieces: Pieces): Promise<Buffer> {
    const wanted = new Map<bigint, ChunkRef>();
    for (let i = 0; i < pieces.count; i++) {
      const from = pieces.from[i] as number;
      const length = pieces.length[i] as number;
      if (from < 0) continue;
      for (let k = this.chunkAt(from); k < this.chunks.length && (this.starts[k] as number) < from + length; k++) {
        const chunk = this.chunks[k] as ChunkRef;
        if (!this.cache.has(chunk.id)) wanted.set(chunk.id, chunk);
      }
    }
    if (wanted.size) for (const [id, bytes] of await readChunks(this.from, [...wanted.values()])) this.keep(id, bytes);
    const out = Buffer.allocUnsafe(pieces.size);
    let at = 0;
    let first = 0;
    let bytes: Buffer | undefined;
    for (let i = 0; i < pieces.count; i++) {
      let from = pieces.from[i] as number;
      let left = pieces.length[i] as number;
      if (from < 0) {
        at = copy(this.pool, -1 - from, left, out, at);
        continue;
      }
      while (left > 0) {
        if (!bytes || from < first || from >= first + bytes.length) {
          const k = this.chunkAt(from);
          const chunk = this.chunks[k];
          first = this.starts[k] as number;
          bytes = chunk && this.cache.get(chunk.id);
          if (!bytes || from >= first + bytes.length) throw new RangeError('a delta reaches beyond its root');
        }
        const take = Math.min(left, first + bytes.length - from);
        at = copy(bytes, from - first, take, out, at);
        from += take;
        left -= take;
      }
    }
    this.forget();
    return out;
  }

  private keep(id: bigint, bytes: Buffer): void {
    if (!this.cache.has(id)) this.cached += bytes.length;
    this.cache.set(id, bytes);
  }

  /** Oldest first, down to the limit. */
  private forget(): void {
    for (const [id, bytes] of this.cache) {
      if (this.cached <= CACHE) return;
      this.cache.delete(id);
      this.cached -= bytes.length;
    }
  }

  private chunkAt(offset: number): number {
    let low = 0;
    let high = this.starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.starts[middle] as number) <= offset) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

/** Copies, and gives the offset after it; short runs byte by byte, which is faster than a call. */
function copy(source: Uint8Array, from: number, length: number, target: Uint8Array, at: number): number {
  if (length > 48) target.set(source.subarray(from, from + length), at);
  else for (let i = 0; i < length; i++) target[at + i] = source[from + i] as number;
  return at + length;
}
