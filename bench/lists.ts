/**
 * Lists, rail and opening with 10,000 versions of one file and 100,000 files in one project, and with a tenth of
 * that; sizes of rows.
 */
import type { Person } from '../web/src/contract/api.ts';
import { db, many } from '../web/src/server/db/pool.ts';
import { contentsOf, getFile, makeFolder, makeProject } from '../web/src/server/projects/service.ts';
import { makeFile } from '../web/src/server/versions/checkin.ts';
import { getVersion, listVersions, railOf } from '../web/src/server/versions/service.ts';
import { line } from './measure.ts';
import { benchPerson, incoming } from './storage.ts';

/** Database time of a piece of work: the sum over its statements, as the driver sees them. */
async function databaseTime(work: () => Promise<unknown>): Promise<number> {
  const pool = db();
  const query = pool.query.bind(pool) as (...args: unknown[]) => Promise<unknown>;
  let spent = 0;
  let running = 0;
  let since = 0;
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
    const small = await p95(work(0));
    const large = await p95(work(1));
    line(
      `${what}: database time, p95`,
      `${large.toFixed(1)} ms`,
      `goal < 20 ms; with a tenth ${small.toFixed(1)} ms, so × ${(large / small).toFixed(1)}`,
    );
  };
  await show(
    'folder of a project of 100,000 files',
    (k) => (i) => contentsOf(by, files[k].projectId, files[k].folders[i % files[k].folders.length] ?? null),
  );
  await show(
    'opening one file of 100,000',
    (k) => (i) => getFile(by, files[k].fileIds[(i * 977) % files[k].fileIds.length] ?? ''),
  );
  await show('rail: all versions of a file with 10,000', (k) => () => railOf(by, versions[k].fileId));
  const laned = [await manyLines(by, 5), await manyLines(by, 50)] as const;
  await show('rail: 50 lines with 10,000 versions together', (k) => () => railOf(by, laned[k]));
  await show(
    'a page of 100 of 10,000 versions',
    (k) => (i) => listVersions(by, versions[k].fileId, { from: 1 + ((i * 100) % 900), to: 100 + ((i * 100) % 900) }),
  );
  await show(
    'opening one version of 10,000',
    (k) => (i) => getVersion(by, versions[k].ids[(i * 977) % versions[k].ids.length] ?? ''),
  );
  const sizes = await many<{ name: string; bytes: string; rows: string }>(
    db(),
    `
    select t as name, pg_total_relation_size(t::regclass) as bytes, case t when 'version' then (select count(*) from version) else (select count(*) from content) end as rows from unnest(array['version', 'content']) t`,
  );
  for (const s of sizes)
    line(
      `bytes of a ${s.name} row with its indexes`,
      String(Math.round(Number(s.bytes) / Number(s.rows))),
      `${Number(s.rows).toLocaleString('en')} rows`,
    );
}

async function manyFiles(
  by: Person,
  count: number,
): Promise<{ projectId: string; folders: string[]; fileIds: string[] }> {
  const project = await makeProject(by, `Files ${count} ${Date.now()}`);
  const folders: string[] = [];
  for (let i = 0; i < count / 500; i++) folders.push((await makeFolder(by, project.id, null, `Folder ${i}`)).id);
  const { file } = await makeFile(
    by,
    project.id,
    null,
    undefined,
    incoming('first.txt', new TextEncoder().encode(String(count))),
    { note: '' },
  );
  await db().query(
    `
    with made as (
      insert into file (project_id, folder_id, name, created_by) select $1, ($2::uuid[])[1 + n % $3], 'drawing-' || n || '.txt', $4 from generate_series(1, $5) n returning id
    ), lined as (insert into line (file_id, name, position) select id, 'main line', 0 from made returning id, file_id)
    insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by)
    select lined.file_id, lined.id, 1, (select content_id from version where file_id = $6), 'check-in', 'as found', 'x.txt', $4 from lined`,
    [project.id, folders, folders.length, by.id, count, file.id],
  );
  await db().query('update project set files = files + $2 where id = $1', [project.id, count]);
  const ids = await many<{ id: string }>(db(), 'select id from file where project_id = $1 limit 5000', [project.id]);
  return { projectId: project.id, folders, fileIds: ids.map((r) => r.id) };
}

/** A file with so many lines beside the main one, of 200 versions each. */
async function manyLines(by: Person, lines: number): Promise<string> {
  const { fileId } = await manyVersions(by, 20 + lines);
  await db().query(
    `
    with made as (
      insert into line (file_id, name, position, from_id)
      select $1, 'try ' || n, n, (select id from version where file_id = $1 order by number limit 1) from generate_series(1, $2::int) n
      returning id, position
    )
    insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by)
    select $1, made.id, n + 1, (select content_id from version where file_id = $1 order by number limit 1), 'check-in', 'a note of usual length, say', 'v.txt', $3
    from made, generate_series(1, 200) n`,
    [fileId, lines, by.id],
  );
  return fileId;
}

async function manyVersions(by: Person, count: number): Promise<{ fileId: string; ids: string[] }> {
  const project = await makeProject(by, `Versions ${count} ${Date.now()}`);
  const { file } = await makeFile(by, project.id, null, undefined, incoming('v.txt', new TextEncoder().encode('v1')), {
    note: '',
  });
  await db().query(
    `
    with text as (
      insert into content (store_id, hash, size, stream_size, chunker, manifest, format, packed)
      select 1, sha256(($2 || ' ' || n)::bytea), 9, 9, 2, ''::bytea, 'text', true from generate_series(2, $2::int) n returning id
    ), numbered as (select id, row_number() over (order by id) + 1 as number from text)
    insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by)
    select $1, l.id, n.number, n.id, 'check-in', 'a note of usual length, say', 'v.txt', $3 from numbered n, line l where l.file_id = $1`,
    [file.id, count, by.id],
  );
  return { fileId: file.id, ids: [file.newest.id] };
}
