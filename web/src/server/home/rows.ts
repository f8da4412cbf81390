/** Rows of the first page. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';

/** Who was not here for so long comes for another visit, in minutes. */
const PAUSE = 30;
/** When the visit of before ended: of a new one the last time here, of one that goes on what it was when it began. */
const before = `case when visit.here_at < now() - make_interval(mins => $2) then visit.here_at else visit.before_at end`;

/** When somebody was here last, before this visit; null: never. */
export async function lastVisit(client: Db, personId: string, pause = PAUSE): Promise<Date | null> {
  const row = await one<{ at: Date | null }>(client, `select ${before} as at from visit where person_id = $1`, [
    personId,
    pause,
  ]);
  return row?.at ?? null;
}

/** Notes that somebody is here. */
export async function beHere(client: Db, personId: string, pause = PAUSE): Promise<void> {
  await client.query(
    `insert into visit (person_id) values ($1)
     on conflict (person_id) do update set before_at = ${before}, here_at = now()`,
    [personId, pause],
  );
}

/** Where `$1` is a person and `f` a file: they say that they follow it, or worked on it or commented and do not say otherwise. */
const isTheirs = `
  coalesce(
    (select follows from follow where person_id = $1 and file_id = f.id),
    exists (select 1 from version where store_id = ${STORE} and file_id = f.id and made_by = $1)
      or exists (select 1 from comment where file_id = f.id and person_id = $1)
      or exists (select 1 from checkout where file_id = f.id and person_id = $1))`;

export const isFollowed = async (client: Db, personId: string, fileId: string): Promise<boolean> =>
  (await one(client, `select 1 from file f where f.id = $2 and ${isTheirs}`, [personId, fileId])) !== undefined;

export async function putFollow(client: Db, personId: string, fileId: string, follows: boolean): Promise<void> {
  await client.query(
    `insert into follow (person_id, file_id, follows) values ($1, $2, $3)
     on conflict (person_id, file_id) do update set follows = excluded.follows`,
    [personId, fileId, follows],
  );
}

export interface NewsRow {
  readonly entry: string;
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  readonly project: string;
  readonly newest_id: string | null;
  readonly newest_format: string | null;
  /** Of the version that was made; null where none was, or it is gone. */
  readonly made_id: string | null;
  readonly made_format: string | null;
}

/** What others did to files that somebody follows, the newest first. */
export function newsRows(
  client: Db,
  personId: string,
  { since, acts, scope, most }: { since: Date | null; acts: readonly string[]; scope: Scope; most: number },
): Promise<NewsRow[]> {
  const values: unknown[] = [personId, since, acts, STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<NewsRow & Record<string, unknown>>(
    client,
    `
    with told as (
      select e.seq, e.entry, f.id as file_id, f.name as file, f.project_id from file f
      join ledger e on e.store_id = $4 and e.file_id = f.id
      where e.act = any($3) and e.person_id is distinct from $1 and ($2::timestamptz is null or e.at > $2)
        and ${seen} and ${isTheirs}
      order by e.seq desc limit ${most})
    select told.entry, told.file_id, told.file, p.id as project_id, p.name as project,
      newest.id as newest_id, newest.format as newest_format, made.id as made_id, made.format as made_format
    from told
    join project p on p.id = told.project_id
    left join lateral (
      select v.id, c.format from line l join version v on v.store_id = $4 and v.line_id = l.id
      join content c on c.store_id = $4 and c.id = v.content_id
      where l.file_id = told.file_id and l.position = 0 order by v.number desc limit 1) newest on true
    left join lateral (
      select v.id, c.format from version v join content c on c.store_id = $4 and c.id = v.content_id
      where v.store_id = $4 and v.id = ((told.entry::jsonb) #>> '{versions,0,id}')::uuid) made on true
    order by told.seq desc`,
    values,
  );
}

export interface AskRow {
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  readonly project: string;
  readonly by_id: string;
  readonly by_name: string;
  readonly reason: string;
  readonly at: Date;
}

/** Who asks for what somebody has checked out. */
export const askRows = (client: Db, personId: string): Promise<AskRow[]> =>
  many<AskRow>(
    client,
    `
    select f.id as file_id, f.name as file, p.id as project_id, p.name as project,
      asker.id as by_id, asker.name as by_name, r.reason, r.at
    from checkout_request r
    join checkout c on c.line_id = r.line_id and c.person_id = $1
    join file f on f.id = c.file_id
    join project p on p.id = f.project_id
    join person asker on asker.id = r.person_id
    order by r.at`,
    [personId],
  );

export interface HeldRow {
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  readonly project: string;
  readonly line: string;
  readonly position: number;
  readonly at: Date;
}

export const heldBy = (client: Db, personId: string): Promise<HeldRow[]> =>
  many<HeldRow>(
    client,
    `
    select f.id as file_id, f.name as file, p.id as project_id, p.name as project, l.name as line, l.position, c.at
    from checkout c
    join line l on l.id = c.line_id
    join file f on f.id = c.file_id
    join project p on p.id = f.project_id
    where c.person_id = $1 order by c.at desc`,
    [personId],
  );

/** Versions that are tried for a picture of a project. */
const TRIED = 12;

/** The latest versions of each project, among which one has a picture. */
export function latestVersions(
  client: Db,
  projectIds: readonly string[],
  scope: Scope,
): Promise<{ project_id: string; id: string; format: string | null }[]> {
  const values: unknown[] = [projectIds, STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many(
    client,
    `
    select p.id as project_id, v.id, v.format from project p cross join lateral (
      select newest.id, newest.format from file f
      join line l on l.file_id = f.id and l.position = 0
      cross join lateral (
        select v.id, v.made_at, c.format from version v join content c on c.store_id = $2 and c.id = v.content_id
        where v.store_id = $2 and v.line_id = l.id order by v.number desc limit 1) newest
      where f.project_id = p.id and f.deleted_in is null and ${seen}
      order by newest.made_at desc limit ${TRIED}) v
    where p.id = any($1)`,
    values,
  );
}

export interface WorkingRow {
  readonly project_id: string;
  readonly id: string;
  readonly name: string;
  readonly how: 'holds' | 'looks';
}

/** Who holds files, and who looks at one just now; as far as files are open to who asks. */
export function workingRows(client: Db, projectIds: readonly string[], scope: Scope): Promise<WorkingRow[]> {
  const values: unknown[] = [projectIds];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many<WorkingRow & Record<string, unknown>>(
    client,
    `
    select f.project_id, p.id, p.name, min(now_at.how) as how from (
      select file_id, person_id, 'holds' as how from checkout
      union all
      select file_id, person_id, 'looks' from presence where seen_at > now() - interval '50 seconds'
    ) now_at
    join file f on f.id = now_at.file_id
    join person p on p.id = now_at.person_id
    where f.project_id = any($1) and ${seen}
    group by f.project_id, p.id, p.name order by p.name`,
    values,
  );
}

/** Weeks that activity is told of. */
export const WEEKS = 26;

/** Versions made in each of the last weeks, as weeks ago. */
export function activityRows(
  client: Db,
  projectIds: readonly string[],
  scope: Scope,
): Promise<{ project_id: string; ago: number; n: number }[]> {
  const values: unknown[] = [projectIds, STORE];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many(
    client,
    `
    select f.project_id, floor(extract(epoch from now() - v.made_at) / 604800)::int as ago, count(*)::int as n
    from version v join file f on f.id = v.file_id
    where v.store_id = $2 and f.project_id = any($1) and ${seen}
      and v.made_at > now() - interval '${WEEKS} weeks' and v.made_at <= now()
    group by 1, 2`,
    values,
  );
}
