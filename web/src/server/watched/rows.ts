/** Rows of watched folders, and of what a look saw last. */
import type { Glimpse } from '@ovrel/core';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import type { Watched, WatchedProblem } from '../../contract/watched.ts';

export interface WatchedRow {
  readonly id: string;
  readonly path: string;
  readonly project_id: string;
  readonly project: string;
  readonly folder_id: string | null;
  readonly folder: string | null;
  readonly every_minutes: number;
  readonly by_id: string;
  readonly by_name: string;
  readonly looked_at: Date | null;
  readonly problem: WatchedProblem | null;
  readonly problems: Watched['problems'];
  readonly files: number;
}

const watchedSelect = `
  select w.id, w.path, w.project_id, p.name as project, w.folder_id, f.name as folder, w.every_minutes,
    by.id as by_id, by.name as by_name, w.looked_at, w.problem, w.problems,
    (select count(*)::int from watched_file x where x.watched_id = w.id and x.taken) as files
  from watched_folder w
  join project p on p.id = w.project_id
  left join folder f on f.id = w.folder_id
  join person by on by.id = w.set_by`;

export const watchedRows = (client: Db): Promise<WatchedRow[]> =>
  many<WatchedRow>(client, `${watchedSelect} order by w.path`);

export const watchedRow = (client: Db, id: string): Promise<WatchedRow | undefined> =>
  one<WatchedRow>(client, `${watchedSelect} where w.id = $1`, [id]);

/** Those whose time has come. */
export const dueRows = (client: Db): Promise<{ id: string }[]> =>
  many(
    client,
    `select id from watched_folder
     where looked_at is null or looked_at <= now() - make_interval(mins => every_minutes) + interval '5 seconds'
     order by looked_at nulls first`,
  );

export interface NewWatched {
  readonly path: string;
  readonly projectId: string;
  readonly folderId: string | null;
  readonly everyMinutes: number;
  readonly by: string;
}

/** Undefined where the path is watched already. */
export const insertWatched = (client: Db, watched: NewWatched): Promise<{ id: string } | undefined> =>
  one(
    client,
    `insert into watched_folder (path, project_id, folder_id, every_minutes, set_by) values ($1, $2, $3, $4, $5)
     on conflict (path) do nothing returning id`,
    [watched.path, watched.projectId, watched.folderId, watched.everyMinutes, watched.by],
  );

export const deleteWatched = (client: Db, id: string): Promise<{ path: string } | undefined> =>
  one(client, 'delete from watched_folder where id = $1 returning path', [id]);

export async function lookedAt(
  client: Db,
  id: string,
  problem: WatchedProblem | null,
  problems: Watched['problems'],
): Promise<void> {
  await client.query('update watched_folder set looked_at = now(), problem = $2, problems = $3 where id = $1', [
    id,
    problem,
    JSON.stringify(problems),
  ]);
}

/** What a look saw of a file, and whether it was taken as it is. */
export interface Seen extends Glimpse {
  readonly path: string;
  readonly taken: boolean;
}

export async function seenBefore(client: Db, watchedId: string): Promise<Seen[]> {
  const rows = await many<{ path: string; size: string; changed_at: number; inode: string; taken: boolean }>(
    client,
    'select path, size, changed_at, inode, taken from watched_file where watched_id = $1',
    [watchedId],
  );
  return rows.map(({ path, size, changed_at: at, inode, taken }) => ({
    path,
    size: Number(size),
    at,
    inode: Number(inode),
    taken,
  }));
}

export async function putSeen(client: Db, watchedId: string, seen: readonly Seen[]): Promise<void> {
  await client.query(
    `insert into watched_file (watched_id, path, size, changed_at, inode, taken)
     select $1, * from unnest($2::text[], $3::bigint[], $4::float8[], $5::text[], $6::boolean[])
     on conflict (watched_id, path) do update set
       size = excluded.size, changed_at = excluded.changed_at, inode = excluded.inode, taken = excluded.taken`,
    [
      watchedId,
      seen.map(({ path }) => path),
      seen.map(({ size }) => size),
      seen.map(({ at }) => at),
      seen.map(({ inode }) => String(inode)),
      seen.map(({ taken }) => taken),
    ],
  );
}

/** Capitals do not count. */
export const folderCalled = (
  client: Db,
  projectId: string,
  parentId: string | null,
  name: string,
): Promise<{ id: string } | undefined> =>
  one(
    client,
    `select id from folder where project_id = $1 and parent_id is not distinct from $2 and lower(name) = lower($3)`,
    [projectId, parentId, name],
  );

/** Whether any version of a file has this content. `sha256` in lower-case hexadecimal. */
export const hasContent = async (client: Db, fileId: string, sha256: string): Promise<boolean> =>
  (await one(
    client,
    `select 1 from version v join content c on c.store_id = $1 and c.id = v.content_id
     where v.store_id = $1 and v.file_id = $2 and c.hash = decode($3, 'hex') limit 1`,
    [STORE, fileId, sha256],
  )) !== undefined;
