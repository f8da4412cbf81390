/** Reads contents back, every stored byte checked against a hash before anything made of it is given out. */
import { createHash } from 'node:crypto';
import { innerSize, rebuild, sizeOf, unpackRecipe, type Segment } from '@ovrel/core';
import { deflateAgain } from '../compute/deflate.ts';
import { db, one, replica, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { Problem } from '../problem.ts';
import { ChunkDamaged, type ChunkSource } from './chunks.ts';
import { STORE } from './copy.ts';
import { StoredStream } from './stream.ts';

export interface ContentRow {
  readonly id: string;
  readonly hash: Buffer;
  readonly size: string;
  readonly stream_size: string;
  readonly recipe_size: number;
  readonly base_id: string | null;
  readonly packed: boolean;
  readonly revision: string;
}

const damaged = (): Problem =>
  new Problem(
    500,
    'damaged',
    'The stored content is damaged and was not given out. An administrator has to restore it from a backup.',
  );

const contentRow = (client: Db, id: string): Promise<ContentRow | undefined> =>
  one<ContentRow>(
    client,
    'select id, hash, size, stream_size, recipe_size, base_id, packed, revision from content where store_id = $1 and id = $2',
    [STORE, id],
  );

/** The bytes from `start` up to but not including `end`. Throws a Problem where the store is damaged. */
export async function* readContent(
  contentId: string,
  start = 0,
  end = Infinity,
  client?: ChunkSource,
): AsyncGenerator<Buffer, void> {
  let source = client ?? replica();
  const content =
    (await contentRow(source, contentId).catch((error: unknown) => {
      if (source === (client ?? db())) throw error;
    })) ?? (source === client ? undefined : await contentRow((source = db()), contentId));
  if (!content) throw new Problem(404, 'not-found', 'There is no such content.');
  const size = Number(content.size);
  const stop = Math.min(end, size);
  const whole = start === 0 && stop === size ? createHash('sha256') : undefined;
  let given = start;
  let row = content;
  let held: Buffer | undefined;
  for (;;) {
    try {
      for await (const piece of pieces(row, given, stop, source)) {
        whole?.update(piece);
        given += piece.length;
        // The last piece is held back until the whole has been checked.
        if (held) yield held;
        held = piece;
      }
      break;
    } catch (error) {
      const elsewhere = !client && source !== db();
      if (!(error instanceof ChunkDamaged || error instanceof RangeError || elsewhere)) throw error;
      // A content that was packed while it was read is read on from its new place; what a replica has not got, or
      // cannot give, from the first database.
      const before = source;
      source = client ?? db();
      const now = await contentRow(source, contentId);
      if (now && (now.revision !== row.revision || source !== before)) {
        row = now;
        continue;
      }
      log.error({ contentId, error: (error as Error).message }, 'a stored content is damaged');
      throw damaged();
    }
  }
  if ((given !== stop && stop > start) || (whole && !whole.digest().equals(content.hash))) {
    log.error({ contentId }, 'a stored content does not match its hash');
    throw damaged();
  }
  if (held?.length) yield held;
}

async function* pieces(row: ContentRow, start: number, end: number, store: ChunkSource): AsyncGenerator<Buffer, void> {
  const stream = await StoredStream.open(row.id, store);
  // Packed between the two looks: its bytes would be taken for what they are not.
  if (stream.revision !== row.revision) throw new ChunkDamaged(0n, 'belongs to a content that was packed meanwhile');
  if (!row.recipe_size) {
    yield* stream.read(start, end);
    return;
  }
  const total = Number(row.stream_size);
  const body = total - row.recipe_size;
  const all = unpackRecipe((await stream.whole(body, total)).toString('utf8'));
  const { segments, from, skipped } = reaching(all, start, end);
  const source = stream.read(from, body);
  let rest: Buffer = Buffer.alloc(0);
  const take = async (most: number): Promise<Buffer> => {
    if (!rest.length) rest = (await source.next()).value ?? Buffer.alloc(0);
    const piece = rest.subarray(0, most);
    rest = rest.subarray(piece.length);
    return piece;
  };
  let at = skipped;
  try {
    for await (const piece of rebuild(segments, take, deflateAgain)) {
      const a = Math.max(start - at, 0);
      const b = Math.min(end - at, piece.length);
      at += piece.length;
      if (b > a) yield Buffer.from(piece.buffer, piece.byteOffset + a, b - a);
      if (at >= end) return;
    }
  } finally {
    await source.return();
  }
}

/**
 * The segments that overlap start..end, where they begin in the opened stream, and how much of the content lies
 * before them.
 */
function reaching(
  all: readonly Segment[],
  start: number,
  end: number,
): { segments: Segment[]; from: number; skipped: number } {
  let from = 0;
  let at = 0;
  const segments: Segment[] = [];
  let skipped = 0;
  for (const segment of all) {
    const size = sizeOf(segment);
    if (at + size > start && at < end) {
      if (segment.kind === 'raw' && !segments.length) {
        // The first raw segment may be entered in its middle.
        const over = Math.max(0, start - at);
        from += over;
        skipped += over;
        segments.push({ kind: 'raw', length: size - over });
      } else segments.push(segment);
    } else if (!segments.length) {
      skipped += size;
      from += innerSize(segment);
    }
    at += size;
  }
  return { segments, from, skipped };
}

/** The whole content in memory; for contents within the read limit. */
export async function readWhole(contentId: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const piece of readContent(contentId)) parts.push(piece);
  return Buffer.concat(parts);
}
