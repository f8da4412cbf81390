/** Rows of keeping rules, of what they are applied to, and of what was swept. */
import type { KeepingRule, KeptVersion, KindId } from '@ovrel/core';
import { many, one, type Client, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export interface SaidRule {
  readonly folder_id: string | null;
  readonly content: KindId | null;
  readonly rule: KeepingRule;
  /** Absent where it is only thought of. */
  readonly changed_by?: string;
  readonly changed_at?: Date;
}

export const rulesOf = (client: Db, projectId: string): Promise<SaidRule[]> =>
  many<SaidRule & Record<string, unknown>>(
    client,
    `
    select r.folder_id, r.content, r.rule, p.name as changed_by, r.changed_at
    from keeping_rule r join person p on p.id = r.changed_by where r.project_id = $1`,
    [projectId],
  );

export interface RulePlace {
  readonly projectId: string;
  readonly folderId: string | null;
  /** A kind of content; null: all. */
  readonly content: string | null;
}

export async function putRule(
  client: Client,
  { projectId, folderId, content }: RulePlace,
  rule: KeepingRule,
  by: string,
): Promise<void> {
  await client.query(
    `insert into keeping_rule (project_id, folder_id, content, rule, changed_by) values ($1, $2, $3, $4, $5)`,
    [projectId, folderId, content, JSON.stringify(rule), by],
  );
}

/** Whether there was one. */
export async function dropRule(client: Client, { projectId, folderId, content }: RulePlace): Promise<boolean> {
  const { rowCount } = await client.query(
    `delete from keeping_rule
     where project_id = $1 and folder_id is not distinct from $2 and content is not distinct from $3`,
    [projectId, folderId, content],
  );
  return rowCount === 1;
}

export const projectsWithRules = (client: Db): Promise<{ id: string; name: string }[]> =>
  many(client, 'select id, name from project where id in (select project_id from keeping_rule) order by name');

/** Files that somebody made versions of, in projects that have rules. */
export const ruledFilesOf = async (client: Db, personId: string): Promise<string[]> =>
  (
    await many<{ id: string }>(
      client,
      `
      select f.id from file f
      where f.project_id in (select project_id from keeping_rule)
        and exists (select 1 from version v where v.store_id = $1 and v.file_id = f.id and v.made_by = $2)`,
      [STORE, personId],
    )
  ).map(({ id }) => id);

/** Folders of a project with the one that holds each. */
export const folderParents = (client: Db, projectId: string): Promise<{ id: string; parent_id: string | null }[]> =>
  many(client, 'select id, parent_id from folder where project_id = $1', [projectId]);

export interface KeptRow {
  readonly id: string;
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  /** Minutes. */
  readonly sitting_pause: number;
  readonly folder_id: string | null;
  readonly line_id: string;
  readonly line: string;
  readonly line_position: number;
  readonly number: number;
  readonly kind: KeptVersion['kind'];
  readonly made_at: Date;
  readonly by_id: string;
  readonly by_name: string;
  readonly set_id: string;
  /** Versions of the same set, of other files too. */
  readonly together: number;
  readonly title: string | null;
  readonly titled_at: Date | null;
  readonly note: string;
  readonly format: string | null;
  readonly content_id: string;
  readonly bytes: string;
}

/** What is looked at: a project, some files, or the files of some sets. */
export type Which = { readonly project: string } | { readonly files: readonly string[] };

const among = (which: Which): { readonly condition: string; readonly value: unknown } =>
  'project' in which
    ? { condition: 'f.project_id = $2', value: which.project }
    : { condition: 'f.id = any($2)', value: which.files };

/** All versions of these files. What a content takes is as the last tally says, else its size. */
export function keptRows(client: Db, which: Which): Promise<KeptRow[]> {
  const { condition, value } = among(which);
  return many<KeptRow>(
    client,
    `
    with mine as (select v.* from version v join file f on f.id = v.file_id where v.store_id = $1 and ${condition}),
    sets as (
      select set_id, count(*)::int as together from version
      where store_id = $1 and set_id in (select set_id from mine) group by set_id)
    select v.id, v.file_id, f.name as file, f.project_id, pr.sitting_pause, f.folder_id, v.line_id, l.name as line,
      l.position as line_position, v.number, v.kind, v.made_at, p.id as by_id, p.name as by_name, v.set_id,
      sets.together, v.title, v.titled_at, v.note, c.format, v.content_id, coalesce(k.own + k.recipes, c.size) as bytes
    from mine v
    join file f on f.id = v.file_id
    join project pr on pr.id = f.project_id
    join line l on l.id = v.line_id
    join person p on p.id = v.made_by
    join sets on sets.set_id = v.set_id
    join content c on c.store_id = $1 and c.id = v.content_id
    left join content_cost k on k.store_id = $1 and k.content_id = c.id
    order by v.file_id, l.position, v.number`,
    [STORE, value],
  );
}

export interface HoldRow {
  readonly version_id: string;
  readonly hold: KeptVersion['holds'][number]['hold'];
  readonly since: Date;
}

/** What stands on versions of these files, and since when. Titles stand with the versions. */
export function holdRows(client: Db, which: Which): Promise<HoldRow[]> {
  const { condition, value } = among(which);
  return many<HoldRow>(
    client,
    `
    with mine as (select v.id from version v join file f on f.id = v.file_id where v.store_id = $1 and ${condition})
    select version_id, 'commented' as hold, min(made_at) as since from comment
      where version_id in (select id from mine) group by version_id
    union all
    select l.from_id, 'branched from', coalesce(min(v.made_at), now()) from line l
      left join version v on v.store_id = $1 and v.line_id = l.id
      where l.from_id in (select id from mine) group by l.from_id
    union all
    select p.parent_id, 'gone on from', min(made.made_at) from version_parent p
      join version made on made.store_id = $1 and made.id = p.version_id
      where p.store_id = $1 and p.role <> 'follows' and p.parent_id in (select id from mine) group by p.parent_id
    union all
    select r.to_version_id, 'referred to', min(v.made_at) from version_reference r
      join version v on v.store_id = $1 and v.id = r.version_id
      where r.store_id = $1 and r.to_version_id in (select id from mine) group by r.to_version_id
    union all
    select onto_id, 'at work', min(made_at) from proposal where onto_id in (select id from mine) group by onto_id
    union all
    select source_id, 'at work', min(made_at) from proposal where source_id in (select id from mine) group by source_id
    union all
    select source_id, 'at work', min(at) from checkout where source_id in (select id from mine) group by source_id`,
    [STORE, value],
  );
}

/** Files that have versions in any of these sets. */
export const filesOfSets = async (client: Db, setIds: readonly string[]): Promise<string[]> =>
  (
    await many<{ file_id: string }>(
      client,
      'select distinct file_id from version where store_id = $1 and set_id = any($2)',
      [STORE, setIds],
    )
  ).map(({ file_id }) => file_id);

export interface WentBackRow {
  readonly version_id: string;
  readonly at: Date;
  readonly by: string;
  readonly how: string;
}

/**
 * Every time that somebody went back to a version of a project: made another of it, or fetched it when it was an old
 * one.
 */
export const wentBackRows = (client: Db, projectId: string): Promise<WentBackRow[]> =>
  many<WentBackRow>(
    client,
    `
    with mine as (select v.id from version v join file f on f.id = v.file_id where v.store_id = $1 and f.project_id = $2)
    select p.parent_id as version_id, made.made_at as at, person.name as by, p.role as how from version_parent p
      join version made on made.store_id = $1 and made.id = p.version_id
      join person on person.id = made.made_by
      where p.store_id = $1 and p.role in ('brought forward from', 'carried over from', 'taken back to', 'branched off from')
        and p.parent_id in (select id from mine)
    union all
    select l.from_id, first.made_at, person.name, 'branched off from' from line l
      cross join lateral (
        select made_at, made_by from version where store_id = $1 and line_id = l.id order by number limit 1) first
      join person on person.id = first.made_by
      where l.from_id in (select id from mine)
        and exists (
          select 1 from version later join version source on source.store_id = $1 and source.id = l.from_id
          where later.store_id = $1 and later.line_id = source.line_id and later.number > source.number
            and later.made_at < first.made_at)
    union all
    select f.version_id, f.at, person.name, 'fetched' from fetched_old f
      join person on person.id = f.person_id
      where f.store_id = $1 and f.version_id in (select id from mine)
    order by at`,
    [STORE, projectId],
  );

/** Notes that a version was fetched that is not the newest of its line. */
export async function noteFetched(client: Db, versionId: string, personId: string): Promise<void> {
  await client.query(
    `insert into fetched_old (store_id, version_id, person_id)
     select $1, v.id, $3 from version v where v.store_id = $1 and v.id = $2
       and exists (select 1 from version n where n.store_id = $1 and n.line_id = v.line_id and n.number > v.number)`,
    [STORE, versionId, personId],
  );
}

/** Locks these files in the order of their ids, deleted ones too. */
export async function lockFiles(client: Client, fileIds: readonly string[]): Promise<void> {
  await client.query('select 1 from file where id = any($1) order by id for update', [fileIds]);
}

/** Keeps what versions were that are about to be swept, without their contents. */
export async function keepSwept(client: Client, ids: readonly string[]): Promise<void> {
  await client.query(
    `insert into swept_version (store_id, id, file_id, line_id, number, kind, made_by, made_at, follows, hash, size)
     select v.store_id, v.id, v.file_id, v.line_id, v.number, v.kind, v.made_by, v.made_at, p.parent_id, c.hash, c.size
     from version v
     join content c on c.store_id = v.store_id and c.id = v.content_id
     left join version_parent p on p.store_id = v.store_id and p.version_id = v.id and p.role = 'follows'
     where v.store_id = $1 and v.id = any($2)`,
    [STORE, ids],
  );
}

/** What followed versions that go follows the nearest before them that stays, or nothing. */
export async function followNearest(client: Client, ids: readonly string[]): Promise<void> {
  await client.query(
    `
    with recursive up as (
      select version_id, place, parent_id from version_parent
      where store_id = $1 and role = 'follows' and parent_id = any($2) and version_id <> all($2)
      union all
      select up.version_id, up.place, p.parent_id from up
      left join version_parent p on p.store_id = $1 and p.version_id = up.parent_id and p.role = 'follows'
      where up.parent_id = any($2)
    )
    update version_parent p set was_id = coalesce(p.was_id, p.parent_id), parent_id = up.parent_id
    from up
    where p.store_id = $1 and p.version_id = up.version_id and p.place = up.place
      and (up.parent_id is null or up.parent_id <> all($2))`,
    [STORE, ids],
  );
}

/** Refused by the database where something was said of one of them, or refers to it. */
export async function deleteSwept(client: Client, ids: readonly string[]): Promise<void> {
  await client.query('delete from version where store_id = $1 and id = any($2)', [STORE, ids]);
}

/** The version that stands where one was swept: the nearest before it on its line, else the nearest after. */
export const standsInstead = (client: Db, fileId: string, versionId: string): Promise<{ id: string } | undefined> =>
  one<{ id: string }>(
    client,
    `
    select v.id from swept_version s
    join version v on v.store_id = $1 and v.line_id = s.line_id
    where s.store_id = $1 and s.id = $3 and s.file_id = $2
    order by v.number > s.number, abs(v.number - s.number) limit 1`,
    [STORE, fileId, versionId],
  );
