/** Lists, rail and opening with 10,000 versions of one file and 100,000 files in one project, and with a tenth of that; sizes of rows. */
import type { Person } from '../web/src/contract/api.ts';
import { db, many, one } from '../web/src/server/db/pool.ts';
import { contentsOf, getFile, makeFolder, makeProject } from '../web/src/server/projects/service.ts';
import { packFile } from '../web/src/server/store/pack.ts';
import { checkIn, makeFile } from '../web/src/server/versions/checkin.ts';
import { getVersion, listVersions, railOf } from '../web/src/server/versions/service.ts';
import { line, median } from './measure.ts';
import { benchPerson, drain, incoming } from './storage.ts';

/** Database time of a piece of work: the sum over its statements, as the driver sees them. */
async function databaseTime(work: () => Promise<unknown>): Promise<number> {
  const pool = db(), query = pool.query.bind(pool) as (...args: unknown[]) => Promise<unknown>;
  let spent = 0, running = 0, since = 0;
  (pool as unknown as { query: unknown }).query = async (...args: unknown[]) => {
    if (running++ === 0) since = performance.now();
    try {
      return await query(...args);
    } finally {
      if (--running === 0) spent += performance.now() - since;
    }
  };
  try {
    await work();
  } finally {
    (pool as unknown as { query: unknown }).query = query;
  }
  return spent;
}

async function p95(work: (i: number) => Promise<unknown>, rounds = 60): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) times.push(await databaseTime(() => work(i)));
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;
}

export async function benchLists(): Promise<void> {
  const by = await benchPerson();
  const files = [await manyFiles(by, 10_000), await manyFiles(by, 100_000)] as const;
  const versions = [await manyVersions(by, 1000), await manyVersions(by, 10_000)] as const;
  await db().query('analyze');
  const show = async (what: string, work: (k: 0 | 1) => (i: number) => Promise<unknown>): Promise<void> => {
    const small = await p95(work(0)), large = await p95(work(1));
    line(`${what}: database time, p95`, `${large.toFixed(1)} ms`, `goal < 20 ms; with a tenth ${small.toFixed(1)} ms, so × ${(large / small).toFixed(1)}`);
  };
  await show('folder of a project of 100,000 files', (k) => (i) => contentsOf(by, files[k].projectId, files[k].folders[i % files[k].folders.length] ?? null));
  await show('opening one file of 100,000', (k) => (i) => getFile(by, files[k].fileIds[(i * 977) % files[k].fileIds.length] ?? ''));
  await show('rail: all versions of a file with 10,000', (k) => () => railOf(by, versions[k].fileId));
  await show('a page of 100 of 10,000 versions', (k) => (i) => listVersions(by, versions[k].fileId, { from: 1 + ((i * 100) % 900), to: 100 + ((i * 100) % 900) }));
  await show('opening one version of 10,000', (k) => (i) => getVersion(by, versions[k].ids[(i * 977) % versions[k].ids.length] ?? ''));
  await readTimes(by);
  const sizes = await many<{ name: string; bytes: string; rows: string }>(db(), `
    select t as name, pg_total_relation_size(t::regclass) as bytes, case t when 'version' then (select count(*) from version) else (select count(*) from content) end as rows from unnest(array['version', 'content']) t`);
  for (const s of sizes) line(`bytes of a ${s.name} row with its indexes`, String(Math.round(Number(s.bytes) / Number(s.rows))), `${Number(s.rows).toLocaleString('en')} rows`);
}

async function manyFiles(by: Person, count: number): Promise<{ projectId: string; folders: string[]; fileIds: string[] }> {
  const project = await makeProject(by, `Files ${count} ${Date.now()}`), folders: string[] = [];
  for (let i = 0; i < count / 500; i++) folders.push((await makeFolder(by, project.id, null, `Folder ${i}`)).id);
  const { file } = await makeFile(by, project.id, null, undefined, incoming('first.txt', new TextEncoder().encode(String(count))), { note: '' });
  await db().query(`
    with made as (
      insert into file (project_id, folder_id, name, created_by) select $1, ($2::uuid[])[1 + n % $3], 'drawing-' || n || '.txt', $4 from generate_series(1, $5) n returning id
    ), lined as (insert into line (file_id, name, position) select id, 'main line', 0 from made returning id, file_id)
    insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by)
    select lined.file_id, lined.id, 1, (select content_id from version where file_id = $6), 'check-in', 'as found', 'x.txt', $4 from lined`,
  [project.id, folders, folders.length, by.id, count, file.id]);
  await db().query('update project set files = files + $2 where id = $1', [project.id, count]);
  const ids = await many<{ id: string }>(db(), 'select id from file where project_id = $1 limit 5000', [project.id]);
  return { projectId: project.id, folders, fileIds: ids.map((r) => r.id) };
}

async function manyVersions(by: Person, count: number): Promise<{ fileId: string; ids: string[] }> {
  const project = await makeProject(by, `Versions ${count} ${Date.now()}`);
  const { file } = await makeFile(by, project.id, null, undefined, incoming('v.txt', new TextEncoder().encode('v1')), { note: '' });
  await db().query(`
    with text as (
      insert into content (store_id, hash, size, stream_size, chunker, manifest, format, packed)
      select 1, sha256(($2 || ' ' || n)::bytea), 9, 9, 2, ''::bytea, 'text', true from generate_series(2, $2::int) n returning id
    ), numbered as (select id, row_number() over (order by id) + 1 as number from text)
    insert into version (file_id, line_id, number, content_id, parent_id, kind, note, upload_name, made_by)
    select $1, l.id, n.number, n.id, null, 'check-in', 'a note of usual length, say', 'v.txt', $3 from numbered n, line l where l.file_id = $1`, [file.id, count, by.id]);
  return { fileId: file.id, ids: [file.newest.id] };
}

/** Reading version 1, 30 and the last of a drawing with very many versions, each a little changed. */
async function readTimes(by: Person): Promise<void> {
  const project = await makeProject(by, `Reading ${Date.now()}`), lines = Array.from({ length: 3_000 }, (_, i) => `#${i}=POINT(${(i * 7919) % 9973}.25,${(i * 104_729) % 99_991}.5);`);
  const bytes = (n: number): Uint8Array => {
    for (let k = 0; k < 20; k++) lines[(n * 977 + k * 131) % lines.length] = `#${n}=CHANGED(${k},${n * k}.5);`;
    return new TextEncoder().encode(lines.join('\n'));
  };
  const count = Number(process.env['OVREL_BENCH_VERSIONS'] ?? 1000);
  const { file } = await makeFile(by, project.id, null, undefined, incoming('read.txt', bytes(0)), { note: '' });
  for (let n = 1; n < count; n++) {
    await checkIn(by, file.id, incoming('read.txt', bytes(n)), { note: '' });
    if (n % 200 === 199) await packFile(file.id, async () => undefined);
  }
  await packFile(file.id, async () => undefined);
  const ids = (await many<{ content_id: string; number: number; depth: number }>(db(), 'select v.content_id, v.number, c.depth from version v join content c on c.id = v.content_id where v.file_id = $1 and v.number = any($2::int[]) order by v.number', [file.id, [1, 30, count]]));
  const times = new Map(ids.map((r) => [r.number, [] as number[]]));
  for (let round = 0; round < 9; round++) {
    for (const { content_id: id, number } of ids) {
      const start = performance.now();
      await drain(id);
      times.get(number)?.push(performance.now() - start);
    }
  }
  const [first, thirtieth, last] = ids.map((r) => median(times.get(r.number) ?? [])) as [number, number, number];
  const stored = await one<{ n: string }>(db(), 'select sum(chain_bytes) as n from content c join version v on v.content_id = c.id where v.file_id = $1 and v.number = $2', [file.id, count]);
  line(`reading v30 ÷ v1 and v${count} ÷ v1, text of 0.1 MB`, `${(thirtieth / first).toFixed(2)} / ${(last / first).toFixed(2)}`, `goal ≤ 1.5; ${first.toFixed(0)}, ${thirtieth.toFixed(0)}, ${last.toFixed(0)} ms; deltas to the root ${ids.map((r) => r.depth).join(', ')}; their bytes ${stored?.n ?? 0}`);
}
