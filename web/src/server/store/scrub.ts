/** The scrub: every chunk is read and hashed, then every content; what is damaged is named by file and version. */
import { db, many, one, withClient } from '../db/pool.ts';
import { dropDamaged } from '../facts/rows.ts';
import { proveLedger } from '../ledger/ledger.ts';
import { proveVersions, sayFault, type WrongVersion } from '../ledger/seals.ts';
import { Problem } from '../problem.ts';
import type { ScrubReport } from '../../contract/storage.ts';
import { ChunkDamaged, readChunks } from './chunks.ts';
import { STORE } from './copy.ts';
import { unpackManifest } from './manifest.ts';
import { readContent } from './reader.ts';
import type { ReportStep } from './collect.ts';

const PAGE = 64;

export async function scrub(step: ReportStep = async () => undefined): Promise<ScrubReport> {
  const totals = await one<{ chunks: string; stored: string; contents: string; bytes: string }>(
    db(),
    `
    select (select count(*) from chunk where store_id = $1) as chunks, (select coalesce(sum(stored), 0) from chunk where store_id = $1) as stored,
           (select count(*) from content where store_id = $1) as contents, (select coalesce(sum(size), 0) from content where store_id = $1) as bytes`,
    [STORE],
  );
  const badChunks = await scrubChunks(Number(totals?.chunks ?? 0), step);
  const badContents = await scrubContents(Number(totals?.contents ?? 0), step);
  for (const id of await contentsWith(badChunks)) badContents.add(id);
  return {
    chunks: Number(totals?.chunks ?? 0),
    storedBytes: Number(totals?.stored ?? 0),
    contents: Number(totals?.contents ?? 0),
    contentBytes: Number(totals?.bytes ?? 0),
    damagedChunks: badChunks.size,
    damagedContents: badContents.size,
    damaged: await named([...badContents]),
    damagedResults: await dropDamaged(db()),
    ledger: await scrubLedger(step),
  };
}

async function scrubChunks(total: number, step: ReportStep): Promise<Set<bigint>> {
  const bad = new Set<bigint>();
  let done = 0;
  for (let bucket = 0; bucket < 256; bucket++) {
    let last = '0';
    for (;;) {
      await step('reading chunks', done, total);
      const rows = await many<{ id: string; size: number }>(
        db(),
        'select id, size from chunk where store_id = $1 and bucket = $2 and id > $3 order by id limit $4',
        [STORE, bucket, last, PAGE],
      );
      const refs = rows.map((r) => ({ id: BigInt(r.id), size: r.size }));
      // Together where all is well; one by one where something is not.
      await readChunks(db(), refs).catch(async (error: unknown) => {
        if (!(error instanceof ChunkDamaged)) throw error;
        for (const ref of refs) {
          await readChunks(db(), [ref]).catch(async (e: unknown) => {
            if (!(e instanceof ChunkDamaged)) throw e;
            // It may have been collected since it was listed.
            if (
              await one(db(), 'select 1 from chunk where store_id = $1 and bucket = $2 and id = $3', [
                STORE,
                bucket,
                String(ref.id),
              ])
            )
              bad.add(ref.id);
          });
        }
      });
      done += rows.length;
      last = rows.at(-1)?.id ?? last;
      if (rows.length < PAGE) break;
    }
  }
  return bad;
}

async function scrubContents(total: number, step: ReportStep): Promise<Set<string>> {
  const bad = new Set<string>();
  let last = '0';
  let done = 0;
  for (;;) {
    const rows = await many<{ id: string }>(
      db(),
      'select id from content where store_id = $1 and id > $2 order by id limit $3',
      [STORE, last, PAGE],
    );
    for (const { id } of rows) {
      await step('reading versions', done++, total);
      try {
        for await (const _ of readContent(id, 0, Infinity, db())) {
          /* hashed by reading */
        }
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'damaged') bad.add(id);
      }
    }
    last = rows.at(-1)?.id ?? last;
    if (rows.length < PAGE) return bad;
  }
}

/** Contents that refer to one of these chunks, themselves or through a base. */
async function contentsWith(chunks: ReadonlySet<bigint>): Promise<Set<string>> {
  const found = new Set<string>();
  if (!chunks.size) return found;
  let last = '0';
  for (;;) {
    const rows = await many<{ id: string; base_id: string | null; manifest: Buffer }>(
      db(),
      'select id, base_id, manifest from content where store_id = $1 and id > $2 order by id limit 500',
      [STORE, last],
    );
    for (const row of rows) if (unpackManifest(row.manifest).some((ref) => chunks.has(ref.id))) found.add(row.id);
    last = rows.at(-1)?.id ?? last;
    if (rows.length < 500) break;
  }
  const dependents = await many<{ id: string }>(
    db(),
    `
    with recursive dependent as (
      select id from content where store_id = $1 and id = any($2::bigint[])
      union
      select c.id from dependent join content c on c.store_id = $1 and c.base_id = dependent.id
    )
    select id from dependent`,
    [STORE, [...found]],
  );
  return new Set(dependents.map((r) => r.id));
}

async function named(contents: readonly string[]): Promise<ScrubReport['damaged']> {
  const rows = await many<{ file_id: string; file: string; project: string; number: number; version_id: string }>(
    db(),
    `
    select f.id as file_id, f.name as file, p.name as project, v.number, v.id as version_id
    from version v join file f on f.id = v.file_id join project p on p.id = f.project_id
    where v.store_id = $1 and v.content_id = any($2::bigint[])
    order by lower(p.name), lower(f.name), v.number limit 2000`,
    [STORE, contents],
  );
  const files = new Map<string, { fileId: string; file: string; project: string; versions: number[] }>();
  for (const row of rows) {
    const entry = files.get(row.file_id) ?? { fileId: row.file_id, file: row.file, project: row.project, versions: [] };
    entry.versions.push(row.number);
    files.set(row.file_id, entry);
  }
  return [...files.values()];
}

async function scrubLedger(step: ReportStep): Promise<NonNullable<ScrubReport['ledger']>> {
  await step('reading the ledger', 0, 0);
  const { entries, broken } = await proveLedger();
  const { right, wrong } = await withClient((client) =>
    proveVersions(client, (done, total) => step('comparing versions with the ledger', done, total)),
  );
  return {
    entries,
    broken: broken ? { entry: broken.seq, why: broken.why } : null,
    versions: right,
    wrong: await withNames(wrong.slice(0, MOST_NAMED)),
  };
}

const MOST_NAMED = 2000;

async function withNames(wrong: readonly WrongVersion[]): Promise<NonNullable<ScrubReport['ledger']>['wrong']> {
  const rows = await many<{ id: string; file: string; project: string }>(
    db(),
    'select f.id, f.name as file, p.name as project from file f join project p on p.id = f.project_id where f.id = any($1)',
    [[...new Set(wrong.map(({ fileId }) => fileId))]],
  );
  const names = new Map(rows.map((row) => [row.id, row]));
  return wrong.map((version) => {
    const { file, project } = names.get(version.fileId) ?? { file: 'a file that is gone', project: '' };
    return { fileId: version.fileId, file, project, version: version.number, why: sayFault(version) };
  });
}
