import { many, one, type Client, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export interface GoingRow {
  readonly id: string;
  readonly number: number;
  readonly title: string | null;
  readonly note: string;
  readonly by_id: string;
  readonly by_name: string;
  readonly made_at: Date;
}

/** Versions of a line after a number, oldest first. */
export const versionsAfter = (client: Db, lineId: string, number: number): Promise<GoingRow[]> =>
  many<GoingRow>(
    client,
    `select v.id, v.number, v.title, v.note, p.id as by_id, p.name as by_name, v.made_at
     from version v join person p on p.id = v.made_by
     where v.store_id = $1 and v.line_id = $2 and v.number > $3 order by v.number`,
    [STORE, lineId, number],
  );

export const countComments = async (client: Db, ids: readonly string[]): Promise<number> =>
  (await one<{ n: number }>(client, 'select count(*)::int as n from comment where version_id = any($1)', [ids]))?.n ??
  0;

/** Bytes of contents that only these versions have. */
export const bytesOnlyOf = async (client: Db, ids: readonly string[]): Promise<number> =>
  Number(
    (
      await one<{ bytes: string }>(
        client,
        `select coalesce(sum(c.size), 0) as bytes from content c
         where c.store_id = $1
           and c.id in (select content_id from version where store_id = $1 and id = any($2))
           and not exists (select 1 from version v where v.store_id = $1 and v.content_id = c.id and v.id <> all($2))`,
        [STORE, ids],
      )
    )?.bytes ?? 0,
  );

export interface ReferringRow {
  readonly file_id: string;
  readonly file: string;
  readonly number: number;
}

export const referringTo = (client: Db, ids: readonly string[]): Promise<ReferringRow[]> =>
  many<ReferringRow>(
    client,
    `select f.id as file_id, f.name as file, max(v.number) as number
     from version_reference r
     join version v on v.store_id = $1 and v.id = r.version_id
     join file f on f.id = v.file_id
     where r.store_id = $1 and r.to_version_id = any($2) and v.id <> all($2)
     group by f.id, f.name order by f.name`,
    [STORE, ids],
  );

export interface TogetherRow {
  readonly file_id: string;
  readonly file: string;
  readonly version_id: string;
  readonly number: number;
}

/** Other files of the same sets, each with the version before the first of these sets. */
export const checkedInWith = (client: Db, ids: readonly string[]): Promise<TogetherRow[]> =>
  many<TogetherRow>(
    client,
    `
    with firsts as (
      select v.file_id, v.line_id, min(v.number) as first
      from version v join line l on l.id = v.line_id and l.position = 0
      where v.store_id = $1 and v.set_id in (select set_id from version where store_id = $1 and id = any($2))
        and v.file_id not in (select file_id from version where store_id = $1 and id = any($2))
      group by v.file_id, v.line_id
    )
    select f.id as file_id, f.name as file, v.id as version_id, v.number
    from firsts
    join file f on f.id = firsts.file_id and f.deleted_in is null
    join lateral (
      select id, number from version
      where store_id = $1 and line_id = firsts.line_id and number < firsts.first order by number desc limit 1
    ) v on true
    order by f.name`,
    [STORE, ids],
  );

export interface BranchRow {
  readonly number: number;
  /** The line, or the file, that starts from it. */
  readonly name: string;
  readonly as_file: boolean;
}

/** What starts from one of these versions: lines, and files that were made of it. */
export const branchesFrom = (client: Db, ids: readonly string[]): Promise<BranchRow[]> =>
  many<BranchRow>(
    client,
    `
    select v.number, l.name, false as as_file
    from line l join version v on v.store_id = $1 and v.id = l.from_id where l.from_id = any($2)
    union all
    select v.number, f.name, true as as_file
    from version_parent p
    join version v on v.store_id = $1 and v.id = p.parent_id
    join version made on made.store_id = $1 and made.id = p.version_id
    join file f on f.id = made.file_id
    where p.store_id = $1 and p.parent_id = any($2) and p.role = 'branched off from'
    order by 1`,
    [STORE, ids],
  );

/** What refers to versions that go refers to another from now on, or to no certain one. */
export async function referInstead(client: Client, ids: readonly string[], to: string | null): Promise<void> {
  await client.query(
    'update version_reference set to_version_id = $3 where store_id = $1 and to_version_id = any($2) and version_id <> all($2)',
    [STORE, ids, to],
  );
}

/** What hangs on versions goes with them. Their contents go once nothing needs them (collect.ts). */
export async function deleteVersions(client: Client, ids: readonly string[]): Promise<void> {
  await client.query('delete from comment where version_id = any($1)', [ids]);
  await client.query('delete from proposal where onto_id = any($1) or source_id = any($1)', [ids]);
  await client.query('update checkout set source_id = null where source_id = any($1)', [ids]);
  await client.query('delete from version where store_id = $1 and id = any($2)', [STORE, ids]);
}
