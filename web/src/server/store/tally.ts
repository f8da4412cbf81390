/** The tally: what each content costs, and what was saved by which means; the figures of the Storage page. */
import { cardOf } from '@ovrel/core';
import type { StorageReport } from '../../contract/storage.ts';
import { db, many, one, transaction, type Client } from '../db/pool.ts';
import { STORE } from './copy.ts';
import type { ReportStep } from './collect.ts';
import { unpackManifest } from './manifest.ts';

const PAGE = 500;
/** Bytes of a content's row beside its manifest, about. */
const ROW = 160;
const FILES = 200;

/** Counts everything anew and keeps the result. Memory: about 12 bytes a chunk. */
export async function tally(step: ReportStep = async () => undefined): Promise<StorageReport> {
  const stored = new Map<string, number>();
  let last = '0';
  for (;;) {
    const rows = await many<{ id: string; stored: number }>(
      db(),
      'select id, stored from chunk where store_id = $1 and id > $2 order by id limit 20000',
      [STORE, last],
    );
    for (const row of rows) stored.set(row.id, row.stored);
    last = rows.at(-1)?.id ?? last;
    await step('counting chunks', stored.size, null);
    if (rows.length < 20_000) break;
  }
  const seen = new Set<string>();
  const total = Number(
    (await one<{ n: string }>(db(), 'select count(*) as n from content where store_id = $1', [STORE]))?.n,
  );
  return transaction(async (client) => {
    await client.query(
      'create temporary table cost_now (content_id bigint, own bigint, shared bigint, recipes bigint) on commit drop',
    );
    let at = '0';
    let done = 0;
    for (;;) {
      const rows = await many<{ id: string; manifest: Buffer; size: string; base_id: string | null }>(
        client,
        'select id, manifest, size, base_id from content where store_id = $1 and id > $2 order by id limit $3',
        [STORE, at, PAGE],
      );
      if (rows.length) await addCosts(client, rows, stored, seen);
      done += rows.length;
      await step('counting versions', done, total);
      at = rows.at(-1)?.id ?? at;
      if (rows.length < PAGE) break;
    }
    await client.query('delete from content_cost where store_id = $1', [STORE]);
    await client.query(
      'insert into content_cost (store_id, content_id, own, shared, recipes) select $1, content_id, own, shared, recipes from cost_now',
      [STORE],
    );
    const unneeded = [...stored].reduce((n, [id, bytes]) => n + (seen.has(id) ? 0 : bytes), 0);
    const report = await reportOf(client, stored.size, unneeded);
    await client.query('insert into storage_report (store_id, value) values ($1, $2)', [STORE, JSON.stringify(report)]);
    await client.query(`delete from storage_report where store_id = $1 and at < now() - interval '7 days'`, [STORE]);
    return report;
  });
}

async function addCosts(
  client: Client,
  rows: readonly { id: string; manifest: Buffer; size: string; base_id: string | null }[],
  stored: ReadonlyMap<string, number>,
  seen: Set<string>,
): Promise<void> {
  const own: number[] = [];
  const shared: number[] = [];
  const recipes: number[] = [];
  for (const row of rows) {
    let ownBytes = 0;
    let sharedRaw = 0;
    let raw = 0;
    for (const { id, size } of unpackManifest(row.manifest)) {
      const key = String(id);
      raw += size;
      if (seen.has(key)) sharedRaw += size;
      else {
        seen.add(key);
        ownBytes += stored.get(key) ?? 0;
      }
    }
    own.push(ownBytes);
    // Of a container the stream is larger than the file: in proportion.
    shared.push(row.base_id === null && raw ? Math.round((Number(row.size) * sharedRaw) / raw) : 0);
    recipes.push(row.manifest.length + ROW);
  }
  await client.query(
    'insert into cost_now select * from unnest($1::bigint[], $2::bigint[], $3::bigint[], $4::bigint[])',
    [rows.map((r) => r.id), own, shared, recipes],
  );
}

/** Each content is charged to the version that brought it first; later versions with the same content cost nothing. */
const versionCosts = `
  charged as (
    select v.id, v.file_id, v.made_at, c.size, c.format, c.base_id,
           row_number() over (partition by v.content_id order by v.made_at, v.id) = 1 as first, k.own + k.recipes as own, k.shared
    from version v
    join content c on c.store_id = v.store_id and c.id = v.content_id
    join content_cost k on k.store_id = c.store_id and k.content_id = c.id
    where v.store_id = $1
  ), cost as (
    select *, case when first then own else 0 end as stored,
           case when first then 0 else size end as copies,
           case when first and base_id is null then shared else 0 end as common,
           case when first and base_id is not null then size - own else 0 end as differences,
           case when first and base_id is null then size - shared - own else 0 end as compression
    from charged
  )`;

const sums = `coalesce(sum(size), 0)::float8 as kept, coalesce(sum(stored), 0)::float8 as stored, count(*)::int as versions`;
const reasons = `coalesce(sum(copies), 0)::float8 as copies, coalesce(sum(common), 0)::float8 as shared, coalesce(sum(differences), 0)::float8 as differences, coalesce(sum(compression), 0)::float8 as compression`;

interface Sums {
  kept: number;
  stored: number;
  versions: number;
}
interface Saved {
  copies: number;
  shared: number;
  differences: number;
  compression: number;
}

async function reportOf(client: Client, chunks: number, unneeded: number): Promise<StorageReport> {
  const ask = <T extends object>(text: string): Promise<T[]> =>
    many<T & Record<string, unknown>>(client, `with ${versionCosts} ${text}`, [STORE]);
  const [total] = await ask<Sums & Saved & { files: number }>(
    `select ${sums}, ${reasons}, count(distinct file_id)::int as files from cost`,
  );
  const contents = await one<{ n: number; opened: number; deltas: number }>(
    client,
    `
    select count(*)::int as n, count(*) filter (where recipe_size > 0)::int as opened, count(*) filter (where base_id is not null)::int as deltas from content where store_id = $1`,
    [STORE],
  );
  const days = await ask<{ day: string; kept: number; stored: number }>(`
    select to_char(made_at at time zone 'UTC', 'YYYY-MM-DD') as day, sum(size)::float8 as kept, sum(stored)::float8 as stored from cost group by 1 order by 1`);
  const projects = await ask<Sums & { id: string; name: string; files: number }>(`
    select p.id, p.name, count(distinct file_id)::int as files, ${sums} from cost join file f on f.id = file_id join project p on p.id = f.project_id group by p.id, p.name order by stored desc limit ${FILES}`);
  const kinds = await ask<Sums & { kind: string | null; files: number }>(
    `select format as kind, count(distinct file_id)::int as files, ${sums} from cost group by format order by stored desc`,
  );
  const files = await ask<Sums & Saved & { id: string; name: string; project: string; kind: string | null }>(`
    select f.id, f.name, p.name as project, (array_agg(format order by made_at desc))[1] as kind, ${sums}, ${reasons}
    from cost join file f on f.id = file_id join project p on p.id = f.project_id group by f.id, f.name, p.name order by stored desc limit ${FILES}`);
  return {
    at: new Date().toISOString(),
    total: {
      kept: total?.kept ?? 0,
      stored: total?.stored ?? 0,
      versions: total?.versions ?? 0,
      files: total?.files ?? 0,
      contents: contents?.n ?? 0,
      opened: contents?.opened ?? 0,
      deltas: contents?.deltas ?? 0,
      chunks,
      unneeded,
    },
    saved: savedOf(total),
    overTime: addedUp(days),
    projects: projects.map(({ id, name, files: n, ...s }) => ({ id, name, files: n, ...sumsOf(s) })),
    kinds: kinds.map((k) => ({ kind: kindName(k.kind), files: k.files, ...sumsOf(k) })),
    files: files.map((f) => ({
      id: f.id,
      name: f.name,
      project: f.project,
      kind: kindName(f.kind),
      ...sumsOf(f),
      saved: savedOf(f),
    })),
  };
}

const sumsOf = ({ kept, stored, versions }: Sums): Sums => ({ kept, stored, versions });
const savedOf = (s: Saved | undefined): Saved => ({
  copies: s?.copies ?? 0,
  shared: s?.shared ?? 0,
  differences: s?.differences ?? 0,
  compression: s?.compression ?? 0,
});
const kindName = (format: string | null): string => cardOf(format)?.title ?? 'Other';

interface Day {
  readonly day: string;
  readonly kept: number;
  readonly stored: number;
}

/** What was kept and stored up to each day. */
function addedUp(days: readonly Day[]): Day[] {
  let kept = 0;
  let stored = 0;
  return days.map(({ day, ...added }) => {
    kept += added.kept;
    stored += added.stored;
    return { day, kept, stored };
  });
}
