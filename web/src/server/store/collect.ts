/**
 * The collector: removes chunks and contents that nothing needs. It runs beside check-ins (locks.ts says how):
 * 1. alone for a moment, it notes how far revisions have gone;
 * 2. without a lock, it marks every chunk that a content refers to;
 * 3. alone for moments, in small batches, it looks at contents that changed since, and condemns what is still
 * unmarked: uploads that
 *    begin from now on store such a chunk anew instead of taking it up;
 * 4. what was condemned before every running upload began is removed, if it is still unmarked and the grace period
 * has passed.
 */
import { setTimeout as sleep } from 'node:timers/promises';
import { db, many, one, transaction, type Client } from '../db/pool.ts';
import { config } from '../config.ts';
import { dropOldUploads } from '../sending/rows.ts';
import { bucketOf, STORE } from './copy.ts';
import { holdAlone } from './locks.ts';
import { unpackManifest } from './manifest.ts';

const BATCH = 200;
/** Chunk numbers that are marked in one pass: a bit each, so 16 MB. */
const SPAN = 128 * 1024 * 1024;
const PAGE = 500;
/** What was sent in parts is kept for so long after its last part. */
const UPLOAD_HOURS = 24;
/** How long uploads under way are waited for, in milliseconds. */
const WAIT = 15_000;

export interface Collected {
  readonly chunks: number;
  readonly bytes: number;
  readonly contents: number;
}

export type ReportStep = (doing: string, done: number, total: number | null) => Promise<void>;

/** Removes what has been unreferenced for at least the grace period (OVREL_GRACE_MINUTES). */
export async function collect(
  step: ReportStep = async () => undefined,
  graceMinutes = config.graceMinutes,
  wait = WAIT,
): Promise<Collected> {
  await dropOldUploads(db(), UPLOAD_HOURS);
  const contents = await collectContents(graceMinutes);
  const start = await transaction(async (client) => {
    await holdAlone(client);
    return one<{ chunk: string; revision: string }>(
      client,
      'select (select last_value from chunk_id) as chunk, (select last_value from content_revision) as revision',
    );
  });
  let chunks = 0;
  let bytes = 0;
  const high = Number(start?.chunk ?? 0) + 1;
  for (let low = 1; low < high; low += SPAN) {
    const marks = new Marks(low, Math.min(low + SPAN, high));
    await mark(marks, step);
    const seen = await condemn(marks, BigInt(start?.revision ?? 0), step);
    const found = await execute(marks, seen, { graceMinutes, wait }, step);
    chunks += found.chunks;
    bytes += found.bytes;
  }
  return { chunks, bytes, contents };
}

/** One bit for each chunk number from low up to but not including high. */
class Marks {
  readonly low: number;
  readonly high: number;
  private readonly bits: Uint8Array;

  constructor(low: number, high: number) {
    this.low = low;
    this.high = high;
    this.bits = new Uint8Array(Math.ceil((high - low) / 8));
  }

  /** Marks every chunk of a manifest. */
  add(manifest: Buffer): void {
    for (const { id } of unpackManifest(manifest)) {
      const n = Number(id >> 8n) - this.low;
      if (n >= 0 && n < this.high - this.low) this.bits[n >> 3] = (this.bits[n >> 3] as number) | (1 << (n & 7));
    }
  }

  has(id: bigint): boolean {
    const n = Number(id >> 8n) - this.low;
    return Boolean((this.bits[n >> 3] ?? 0) & (1 << (n & 7)));
  }
}

async function mark(marks: Marks, step: ReportStep): Promise<void> {
  const total = Number(
    (await one<{ n: string }>(db(), 'select count(*) as n from content where store_id = $1', [STORE]))?.n,
  );
  let last = '0';
  let done = 0;
  for (;;) {
    const rows = await many<{ id: string; manifest: Buffer }>(
      db(),
      'select id, manifest from content where store_id = $1 and id > $2 order by id limit $3',
      [STORE, last, PAGE],
    );
    for (const row of rows) marks.add(row.manifest);
    done += rows.length;
    await step('marking what is needed', done, total);
    last = rows.at(-1)?.id ?? last;
    if (rows.length < PAGE) return;
  }
}

/** Marks from contents that were made or packed since; gives the latest revision. */
async function markNewer(client: Client, marks: Marks, since: bigint): Promise<bigint> {
  const rows = await many<{ revision: string; manifest: Buffer }>(
    client,
    'select revision, manifest from content where store_id = $1 and revision > $2 order by revision',
    [STORE, String(since)],
  );
  for (const row of rows) marks.add(row.manifest);
  return rows.length ? BigInt((rows.at(-1) as { revision: string }).revision) : since;
}

/** Condemns what is unmarked; gives the revision up to which contents have been seen. */
async function condemn(marks: Marks, since: bigint, step: ReportStep): Promise<bigint> {
  let seen = since;
  for (let bucket = 0; bucket < 256; bucket++) {
    await step('looking for what is not', bucket, 256);
    const spare: bigint[] = [];
    let last = BigInt(marks.low) << 8n;
    for (;;) {
      const rows = await many<{ id: string }>(
        db(),
        'select id from chunk where store_id = $1 and bucket = $2 and id >= $3 and id < $4 order by id limit 5000',
        [STORE, bucket, String(last), String(BigInt(marks.high) << 8n)],
      );
      for (const { id } of rows) if (!marks.has(BigInt(id))) spare.push(BigInt(id));
      last = BigInt(rows.at(-1)?.id ?? last) + 1n;
      if (rows.length < 5000) break;
    }
    for (let i = 0; i < spare.length; i += BATCH) {
      await transaction(async (client) => {
        await holdAlone(client);
        seen = await markNewer(client, marks, seen);
        await client.query(
          `
          insert into condemned (store_id, chunk_id, bucket)
          select $1, id, $2 from chunk where store_id = $1 and bucket = $2 and id = any($3::bigint[]) on conflict do nothing`,
          [
            STORE,
            bucket,
            spare
              .slice(i, i + BATCH)
              .filter((id) => !marks.has(id))
              .map(String),
          ],
        );
      });
    }
  }
  return seen;
}

/** Removes condemned chunks that no running upload can have taken up; pardons those that one did take up. */
async function execute(
  marks: Marks,
  since: bigint,
  { graceMinutes, wait }: { graceMinutes: number; wait: number },
  step: ReportStep,
): Promise<{ chunks: number; bytes: number }> {
  let chunks = 0;
  let bytes = 0;
  let seen = since;
  let last = String(BigInt(marks.low) << 8n);
  await db().query(
    'update condemned set safe_after = pg_snapshot_xmax(pg_current_snapshot())::text::bigint where store_id = $1 and safe_after is null',
    [STORE],
  );
  await uploadsOver(wait, step);
  for (;;) {
    const gone = await transaction(async (client) => {
      await holdAlone(client);
      seen = await markNewer(client, marks, seen);
      const rows = await many<{ chunk_id: string }>(
        client,
        `
        select chunk_id from condemned
        where store_id = $1 and chunk_id > $2 and chunk_id < $3 and at <= now() - make_interval(mins => $4)
          and safe_after <= pg_snapshot_xmin(pg_current_snapshot())::text::bigint
        order by chunk_id limit ${BATCH}`,
        [STORE, last, String(BigInt(marks.high) << 8n), graceMinutes],
      );
      last = rows.at(-1)?.chunk_id ?? last;
      const ids = rows.map((r) => BigInt(r.chunk_id));
      const spare = ids.filter((id) => !marks.has(id));
      await client.query('delete from condemned where store_id = $1 and chunk_id = any($2::bigint[])', [
        STORE,
        ids.filter((id) => marks.has(id)).map(String),
      ]);
      const sums = await one<{ chunks: string; bytes: string }>(
        client,
        `
        with gone as (delete from chunk where store_id = $1 and bucket = any($2::smallint[]) and id = any($3::bigint[]) returning stored)
        select count(*) as chunks, coalesce(sum(stored), 0) as bytes from gone`,
        [STORE, [...new Set(spare.map(bucketOf))], spare.map(String)],
      );
      return { more: rows.length === BATCH, chunks: Number(sums?.chunks ?? 0), bytes: Number(sums?.bytes ?? 0) };
    });
    chunks += gone.chunks;
    bytes += gone.bytes;
    await step('removing what is not needed', chunks, null);
    if (!gone.more) return { chunks, bytes };
  }
}

/**
 * Waits a while for the uploads that are under way; what these may have taken up is otherwise left for the next time.
 */
async function uploadsOver(wait: number, step: ReportStep): Promise<void> {
  for (const until = Date.now() + wait; Date.now() < until; await sleep(20)) {
    const row = await one<{ over: boolean }>(
      db(),
      `
      select not exists (select 1 from condemned where store_id = $1 and safe_after > pg_snapshot_xmin(pg_current_snapshot())::text::bigint) as over`,
      [STORE],
    );
    if (row?.over) return;
    await step('waiting for uploads under way', 0, null);
  }
}

/**
 * Contents that no version and no delta needs. Foreign keys guard against a check-in that takes one up at this moment.
 */
async function collectContents(graceMinutes: number): Promise<number> {
  let removed = 0;
  for (;;) {
    const row = await transaction(async (client) => {
      await holdAlone(client);
      return one<{ n: string }>(
        client,
        `
        with spare as (
          select id from content c where store_id = $1 and created_at <= now() - make_interval(mins => $2)
            and not exists (select 1 from version v where v.store_id = $1 and v.content_id = c.id)
            and not exists (select 1 from proposal p where p.store_id = $1 and p.content_id = c.id)
            and not exists (select 1 from content d where d.store_id = $1 and d.base_id = c.id)
          limit ${BATCH} for update skip locked
        ), gone as (delete from content where store_id = $1 and id in (select id from spare) returning 1)
        select count(*) as n from gone`,
        [STORE, graceMinutes],
      );
    });
    removed += Number(row?.n ?? 0);
    if (!Number(row?.n)) return removed;
  }
}
