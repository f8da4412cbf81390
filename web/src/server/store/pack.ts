/**
 * The packer. Check-in stores bytes fast; afterwards, in a job, contents are stored small: containers opened,
 * versions as deltas against an earlier one, the rest compressed well. Every new form is read back and hashed before
 * it takes the place of the old.
 */
import { createHash } from 'node:crypto';
import {
  chunksOf,
  CHUNKER_VERSION,
  DeltaBuilder,
  isContainer,
  packDelta,
  writerOf,
  type DeflateSettings,
} from '@ovrel/core';
import { runTask, TooHeavy } from '../compute/pool.ts';
import { config } from '../config.ts';
import { db, many, one, transaction, type Client } from '../db/pool.ts';
import { log } from '../log.ts';
import { ChunkWriter, decoded, missingChunks } from './chunks.ts';
import { chunkHash, CODEC_PLAIN, CODEC_ZSTD_HIGH, encode, type Effort } from './codec.ts';
import { bucketOf, copyChunksOut, STORE } from './copy.ts';
import { holdShared } from './locks.ts';
import { unpackManifest, type ChunkRef } from './manifest.ts';
import { readContent, readWhole } from './reader.ts';
import { StoredStream } from './stream.ts';

/**
 * Contents whose place in the chain is a multiple of this are deltas against the last such content, and so on: seven
 * deltas for each digit of the number to that base. Longer strides take a little less space, and more time to read. */
const STRIDE = 8;
const DEEPEST = 35;
/** A delta is taken where it needs at most this share of what the content would need by itself. */
const PAYS = 0.7;
/** Stored bytes of a chain's deltas, in roots; beyond that reading would slow down, and a new root begins. */
const CHAIN_ROOTS = 4;
const CHAIN_FREE = 128 * 1024;
/** New bytes that one delta may hold. */
const MOST_LITERALS = 48 * 1024 * 1024;
const SEGMENT = 16 * 1024 * 1024;
const MARGIN = 8 * 1024 * 1024;
const DELTA_PIECE = 512 * 1024;
/** Chunks that are compressed and stored in one go. */
const AT_ONCE = 32;
/** Larger contents keep the compression that they arrived with. */
const RECOMPRESS = 256 * 1024 * 1024;

interface PackRow {
  id: string;
  size: string;
  packed: boolean;
  stream_size: string;
  recipe_size: number;
  base_id: string | null;
  depth: number;
  chain_at: number;
  chain_bytes: string;
  root_bytes: string;
  manifest: Buffer;
  revision: string;
}

const packRow = (id: string): Promise<PackRow | undefined> =>
  one<PackRow>(
    db(),
    `
  select id, size, packed, stream_size, recipe_size, base_id, depth, chain_at, chain_bytes, root_bytes, manifest, revision
  from content where store_id = $1 and id = $2`,
    [STORE, id],
  );

/** The bytes that are to be stored: of an opened container in memory, of others as they lie in the store. */
interface Source {
  readonly size: number;
  readonly recipeSize: number;
  readonly memory?: Uint8Array;
  readonly read: (start: number, end: number) => Promise<Buffer>;
}

interface Chosen {
  readonly base: PackRow;
  readonly parts: readonly { bytes: Uint8Array; codec: number; data: Buffer }[];
  readonly cost: number;
  readonly chainAt: number;
}

/**
 * Packs what is not packed yet of one file, in the order of its versions. `step` is told before each content, and may
 * throw to stop.
 */
export async function packFile(
  fileId: string,
  step: (done: number, total: number) => Promise<void>,
): Promise<{ packed: number }> {
  const rows = await many<{ content_id: string; parent_content_id: string | null }>(
    db(),
    `
    select v.content_id, parent.content_id as parent_content_id
    from version v
    join line l on l.id = v.line_id
    join content c on c.store_id = v.store_id and c.id = v.content_id and not c.packed
    left join version_parent follows on follows.store_id = v.store_id and follows.version_id = v.id and follows.role = 'follows'
    left join version parent on parent.store_id = v.store_id and parent.id = follows.parent_id
    where v.store_id = $1 and v.file_id = $2
    order by l.position, v.number`,
    [STORE, fileId],
  );
  const several = await one(
    db(),
    `
    select 1 from version a where a.store_id = $1 and a.file_id = $2 and a.content_id <> (select content_id from version where store_id = $1 and file_id = $2 limit 1) limit 1`,
    [STORE, fileId],
  );
  const contents = new Map<string, string | null>();
  for (const row of rows) if (!contents.has(row.content_id)) contents.set(row.content_id, row.parent_content_id);
  let done = 0;
  let packed = 0;
  for (const [id, parent] of contents) {
    await step(done++, contents.size);
    // A container with one version is read more often than it would save.
    if (await packContent(id, parent, several !== undefined)) packed++;
  }
  await step(done, contents.size);
  return { packed };
}

/** True where the content is stored in another way now. */
async function packContent(id: string, parentId: string | null, open: boolean): Promise<boolean> {
  const row = await packRow(id);
  if (!row || row.packed) return false;
  const head = await headOf(id);
  if (isContainerHead(head) && !open) return false;
  const source =
    (open && isContainerHead(head) && Number(row.size) <= config.readLimit ? await opened(id) : undefined) ??
    (await asStored(row));
  const parent = parentId && parentId !== id ? await packRow(parentId) : undefined;
  const chosen = parent?.packed ? await deltaAgainst(source, parent) : undefined;
  try {
    if (chosen) await keepDelta(row, source, chosen);
    else if (source.memory) await keepOpened(row, source, source.memory);
    else await keepRoot(row);
    return true;
  } catch (error) {
    if (!(error instanceof NotTheSame)) throw error;
    // It stays as it is, which is right if not small.
    log.error({ contentId: id }, 'a packed content did not give the same bytes, and was not stored that way');
    await keepRoot(row);
    return false;
  }
}

class NotTheSame extends Error {}

async function headOf(id: string): Promise<Buffer> {
  for await (const piece of readContent(id, 0, 64)) return piece;
  return Buffer.alloc(0);
}

/** The first bytes say whether it may be a container; padded, because the check wants a whole file's length. */
const isContainerHead = (head: Buffer): boolean => isContainer(Buffer.concat([head, Buffer.alloc(64)]));

async function asStored(row: PackRow): Promise<Source> {
  const stream = await StoredStream.open(row.id);
  return { size: Number(row.stream_size), recipeSize: row.recipe_size, read: (start, end) => stream.whole(start, end) };
}

async function opened(id: string): Promise<Source | undefined> {
  const bytes = Uint8Array.from(await readWhole(id));
  const program = writerOf(bytes);
  const known = await one<{ settings: DeflateSettings[] }>(
    db(),
    'select settings from deflate_hint where store_id = $1 and program = $2',
    [STORE, program],
  );
  const found = await runTask('unpack', { bytes, hints: known?.settings ?? [] }).catch((error: unknown) => {
    if (error instanceof TooHeavy) return null;
    throw error;
  });
  if (!found) return undefined;
  await db().query(
    'insert into deflate_hint (store_id, program, settings) values ($1, $2, $3) on conflict (store_id, program) do update set settings = excluded.settings',
    [STORE, program, JSON.stringify(found.settings)],
  );
  const recipe = Buffer.from(found.recipe);
  const memory = Buffer.concat([found.stream, recipe]);
  return {
    size: memory.length,
    recipeSize: recipe.length,
    memory,
    read: async (start, end) => memory.subarray(start, end),
  };
}

/** The links from a content down to its root. */
const chainOf = (id: string): Promise<PackRow[]> =>
  many<PackRow>(
    db(),
    `
  with recursive chain as (
    select c.*, 0 as step from content c where c.store_id = $1 and c.id = $2
    union all
    select c.*, chain.step + 1 from chain join content c on c.store_id = $1 and c.id = chain.base_id
  )
  select id, size, packed, stream_size, recipe_size, base_id, depth, chain_at, chain_bytes, root_bytes, manifest, revision from chain order by step`,
    [STORE, id],
  );

/** The largest power of STRIDE that divides n. */
export function placeOf(n: number): number {
  let place = 1;
  while (n % (place * STRIDE) === 0) place *= STRIDE;
  return place;
}

/** A delta against the right content of the parent's chain; undefined where none pays. */
async function deltaAgainst(source: Source, parent: PackRow): Promise<Chosen | undefined> {
  const chainAt = parent.chain_at + 1;
  const wanted = chainAt - placeOf(chainAt);
  const base = (await chainOf(parent.id)).find((link) => link.chain_at === wanted);
  if (
    !base ||
    base.depth + 1 > DEEPEST ||
    Number(base.stream_size) === 0 ||
    source.size === 0 ||
    source.size > 2 ** 31 - 1 ||
    Number(base.stream_size) > 2 ** 31 - 1
  )
    return undefined;
  const builder = await buildDelta(source, await StoredStream.open(base.id), Number(base.stream_size));
  if (!builder) return undefined;
  const packed = packDelta(builder.finish());
  const level: Effort = packed.length > SEGMENT ? 'fair' : 'high';
  const parts: { bytes: Uint8Array; codec: number; data: Buffer }[] = [];
  for (let at = 0; at < packed.length; at += DELTA_PIECE) {
    const bytes = packed.subarray(at, at + DELTA_PIECE);
    parts.push({ bytes, ...(await encode(bytes, level)) });
  }
  const cost = parts.reduce((n, p) => n + p.data.length, 0);
  if (cost > PAYS * (await costAlone(source))) return undefined;
  if (Number(base.chain_bytes) + cost > CHAIN_ROOTS * Number(base.root_bytes) + CHAIN_FREE) return undefined;
  return { base, parts, cost, chainAt };
}

/**
 * Segment by segment, each against the part of the base where it is expected; undefined as soon as too little is
 * shared.
 */
async function buildDelta(source: Source, base: StoredStream, baseSize: number): Promise<DeltaBuilder | undefined> {
  const builder = new DeltaBuilder();
  const whole = baseSize <= 3 * SEGMENT ? await base.whole(0, baseSize) : undefined;
  for (let at = 0; at < source.size; at += SEGMENT) {
    const target = await source.read(at, Math.min(at + SEGMENT, source.size));
    const from = whole ? 0 : Math.max(0, Math.min(builder.expected, baseSize) - MARGIN);
    builder.append(whole ?? (await base.whole(from, Math.min(from + SEGMENT + 2 * MARGIN, baseSize))), from, target);
    const done = Math.min(at + SEGMENT, source.size);
    if (builder.literals > MOST_LITERALS || (done > 4 * 1024 * 1024 && builder.literals > 0.8 * done)) return undefined;
  }
  return builder;
}

/** What the source would need by itself, by a sample. */
async function costAlone(source: Source): Promise<number> {
  const block = 128 * 1024;
  const count = Math.max(1, Math.min(16, Math.ceil(source.size / block)));
  let sampled = 0;
  let cost = 0;
  for (let i = 0; i < count; i++) {
    const at = Math.floor((source.size * i) / count);
    const bytes = await source.read(at, Math.min(at + block, source.size));
    sampled += bytes.length;
    cost += (await encode(bytes, 'fair')).data.length;
  }
  return sampled ? (cost / sampled) * source.size : 0;
}

interface NewForm {
  readonly streamSize: number;
  readonly recipeSize: number;
  readonly base: PackRow | undefined;
  readonly chainAt: number;
  readonly cost: number;
  readonly manifest: Buffer;
  readonly refs: readonly ChunkRef[];
}

/** Stores a new form, if the content is still as it was and comes back the same. */
async function replace(row: PackRow, write: (client: Client) => Promise<NewForm>): Promise<void> {
  await transaction(async (client) => {
    const form = await write(client);
    const { base } = form;
    const now = await one<{ revision: string; hash: Buffer }>(
      client,
      'select revision, hash from content where store_id = $1 and id = $2 for update',
      [STORE, row.id],
    );
    if (now?.revision !== row.revision) return;
    if (base)
      await client.query('select 1 from content where store_id = $1 and id = $2 for key share', [STORE, base.id]);
    await client.query(
      `
      update content set packed = true, chunker = $3, stream_size = $4, recipe_size = $5, base_id = $6, depth = $7, chain_at = $8, chain_bytes = $9, root_bytes = $10, manifest = $11
      where store_id = $1 and id = $2`,
      [
        STORE,
        row.id,
        CHUNKER_VERSION,
        form.streamSize,
        form.recipeSize,
        base?.id ?? null,
        base ? base.depth + 1 : 0,
        form.chainAt,
        base ? Number(base.chain_bytes) + form.cost : 0,
        base ? base.root_bytes : form.cost,
        form.manifest,
      ],
    );
    const hash = createHash('sha256');
    try {
      for await (const piece of readContent(row.id, 0, Infinity, client)) hash.update(piece);
    } catch {
      throw new NotTheSame();
    }
    if (!hash.digest().equals(now.hash)) throw new NotTheSame();
    if (base && tooScattered(await StoredStream.open(row.id, client))) throw new Scattered();
    await holdShared(client);
    await client.query(`update content set revision = nextval('content_revision') where store_id = $1 and id = $2`, [
      STORE,
      row.id,
    ]);
    if (
      await missingChunks(
        client,
        form.refs.map((r) => r.id),
      )
    )
      throw new Error('chunks were collected while a content was packed');
  }, 'upload');
}

/** The delta is right, but reading it would jump about in the root too much. */
class Scattered extends Error {}

const tooScattered = ({ effort }: StoredStream): boolean => effort.fetches > 3 * effort.chunks + 64;

async function keepDelta(row: PackRow, source: Source, chosen: Chosen): Promise<void> {
  try {
    await replace(row, async (client) => {
      const writer = new ChunkWriter(client, 'high');
      await storeAll(
        writer,
        chosen.parts.map((part) => part.bytes),
      );
      return {
        streamSize: source.size,
        recipeSize: source.recipeSize,
        base: chosen.base,
        chainAt: chosen.chainAt,
        cost: chosen.cost,
        ...writer.manifest,
      };
    });
  } catch (error) {
    if (!(error instanceof Scattered)) throw error;
    if (source.memory) await keepOpened(row, source, source.memory);
    else await keepRoot(row);
  }
}

async function keepOpened(row: PackRow, source: Source, stream: Uint8Array): Promise<void> {
  await replace(row, async (client) => {
    const writer = new ChunkWriter(client, source.size <= SEGMENT ? 'high' : 'fair');
    await storeAll(writer, chunksOf(stream));
    const { manifest, refs } = writer.manifest;
    return {
      streamSize: source.size,
      recipeSize: source.recipeSize,
      base: undefined,
      chainAt: 0,
      cost: await storedBytes(client, refs),
      manifest,
      refs,
    };
  });
}

async function storeAll(writer: ChunkWriter, chunks: readonly Uint8Array[]): Promise<void> {
  for (let i = 0; i < chunks.length; i += AT_ONCE)
    await writer.store(chunks.slice(i, i + AT_ONCE).map((bytes) => ({ bytes, hash: chunkHash(bytes) })));
}

/** The chunks stay what they are; their data are compressed better where that gains anything. */
async function keepRoot(row: PackRow): Promise<void> {
  const refs = unpackManifest(row.manifest);
  if (Number(row.size) <= RECOMPRESS) await recompress(refs, Number(row.size) <= SEGMENT ? 'high' : 'fair');
  await db().query(
    'update content set packed = true, root_bytes = $4 where store_id = $1 and id = $2 and revision = $3',
    [STORE, row.id, row.revision, await storedBytes(db(), refs)],
  );
}

async function recompress(refs: readonly ChunkRef[], level: Effort): Promise<void> {
  const unique = [...new Set(refs.map((r) => r.id))];
  for (let i = 0; i < unique.length; i += 8) {
    await transaction(async (client) => {
      for (const chunk of await copyChunksOut(client, unique.slice(i, i + 8))) {
        if (chunk.codec === CODEC_ZSTD_HIGH || chunk.codec === CODEC_PLAIN) continue;
        const bytes = decoded(chunk);
        // A damaged chunk is left for the scrub to find.
        if (!bytes || !chunkHash(bytes).equals(chunk.hash)) continue;
        const better = await encode(bytes, level);
        if (better.codec === CODEC_PLAIN || better.data.length >= chunk.data.length) continue;
        await client.query(
          'update chunk set codec = $4, stored = $5, data = $6 where store_id = $1 and bucket = $2 and id = $3',
          [STORE, bucketOf(chunk.id), String(chunk.id), better.codec, better.data.length, better.data],
        );
      }
    });
  }
}

async function storedBytes(client: Pick<Client, 'query'>, refs: readonly ChunkRef[]): Promise<number> {
  const ids = [...new Set(refs.map((r) => r.id))];
  if (!ids.length) return 0;
  const row = await one<{ n: string | null }>(
    client,
    'select sum(stored) as n from chunk where store_id = $1 and bucket = any($2::smallint[]) and id = any($3::bigint[])',
    [STORE, [...new Set(ids.map(bucketOf))], ids],
  );
  return Number(row?.n ?? 0);
}
