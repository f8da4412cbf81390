/** Rows of references between files. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { type Need } from '../../contract/desk.ts';

export const versionToRead = (
  client: Db,
  versionId: string,
): Promise<
  | {
      referenced: boolean;
      project_id: string;
      file_id: string;
      made_at: Date;
      set_id: string | null;
    }
  | undefined
> =>
  one<{
    referenced: boolean;
    project_id: string;
    file_id: string;
    made_at: Date;
    set_id: string | null;
  }>(
    client,
    `
    select v.referenced, f.project_id, f.id as file_id, v.made_at, v.set_id from version v join file f on f.id = v.file_id where v.store_id = $1 and v.id = $2`,
    [STORE, versionId],
  );

export const markReferenced = (client: Db, versionId: string): Promise<{ there: number } | undefined> =>
  one(client, 'update version set referenced = true where store_id = $1 and id = $2 and not referenced returning 1', [
    STORE,
    versionId,
  ]);

export interface Recorded {
  target: string;
  kind: string;
  found: Need['found'];
  to_file_id: string | null;
  then_id: string | null;
  then_number: number | null;
  says: string;
}

export const recorded = (client: Db, versionId: string): Promise<Recorded[]> =>
  many<Recorded>(
    client,
    `
  select r.target, r.kind, r.found, r.to_file_id, v.id as then_id, v.number as then_number, '' as says
  from version_reference r left join version v on v.store_id = r.store_id and v.id = r.to_version_id
  where r.store_id = $1 and r.version_id = $2 order by r.place`,
    [STORE, versionId],
  );

export const addedByHand = (client: Db, fileId: string, madeAt: Date): Promise<Recorded[]> =>
  many<Recorded>(
    client,
    `
  select '' as target, 'drawing' as kind, 'by hand' as found, r.to_file_id, v.id as then_id, v.number as then_number, r.says
  from file_reference r left join lateral (
    select v.id, v.number from version v join line l on l.id = v.line_id and l.position = 0
    where v.store_id = $1 and v.file_id = r.to_file_id and v.made_at <= $3 order by v.number desc limit 1) v on true
  where r.file_id = $2 order by r.made_at`,
    [STORE, fileId, madeAt],
  );

export const usersOf = (
  client: Db,
  fileId: string,
): Promise<{ file_id: string; target: string; says: string; by_hand: boolean }[]> =>
  many(
    client,
    `
    select distinct on (file_id) * from (
      select n.file_id, r.target, '' as says, false as by_hand from version_reference r
      join version n on n.store_id = r.store_id and n.id = r.version_id join line l on l.id = n.line_id and l.position = 0
      where r.to_file_id = $2 and n.store_id = $1 and not exists (select 1 from version later where later.store_id = $1 and later.line_id = n.line_id and later.number > n.number)
      union all
      select file_id, '', says, true from file_reference where to_file_id = $2
    ) u order by file_id, by_hand`,
    [STORE, fileId],
  );

export const projectOfFile = (client: Db, fileId: string): Promise<{ project_id: string } | undefined> =>
  one(client, 'select project_id from file where id = $1', [fileId]);

export async function putReference(
  client: Db,
  fileId: string,
  to: string,
  says: string,
  personId: string,
): Promise<void> {
  await client.query(
    'insert into file_reference (file_id, to_file_id, says, made_by) values ($1, $2, $3, $4) on conflict (file_id, to_file_id) do update set says = excluded.says',
    [fileId, to, says, personId],
  );
}

export const dropReference = (client: Db, fileId: string, to: string): Promise<{ there: number } | undefined> =>
  one(client, 'delete from file_reference where file_id = $1 and to_file_id = $2 returning 1', [fileId, to]);

export const bothNames = (client: Db, fileId: string, to: string): Promise<{ a: string; b: string } | undefined> =>
  one(client, 'select a.name as a, b.name as b from file a, file b where a.id = $1 and b.id = $2', [fileId, to]);

/** A file's newest content. */
export interface NewestContent {
  id: string;
  folder_id: string | null;
  content_id: string;
  upload_name: string;
  size: string;
  format: string | null;
}

export const newestContents = (client: Db, projectId: string): Promise<NewestContent[]> =>
  many<NewestContent>(
    client,
    `
    select f.id, f.folder_id, v.content_id, v.upload_name, c.size, c.format
    from file f
    cross join lateral (select id from line where file_id = f.id and position = 0 limit 1) l
    cross join lateral (select content_id, upload_name from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
    join content c on c.store_id = $2 and c.id = v.content_id
    where f.project_id = $1 and f.deleted_in is null`,
    [projectId, STORE],
  );

/** A file with its path in the project, and its newest version. */
export interface FileAt {
  id: string;
  name: string;
  folder_id: string | null;
  path: string;
  deleted: boolean;
  holder: string | null;
  holder_id: string | null;
  newest: number;
  newest_id: string;
  content_id: string;
  hash: Buffer;
  size: string;
  format: string | null;
  made_at: Date;
}

/** Files with their paths in the project; `ids` for some, else all of the project. */
export const filesAt = (client: Db, projectId: string, ids?: readonly string[]): Promise<FileAt[]> =>
  many<FileAt>(
    client,
    `
  with recursive trail as (
    select id, name as path from folder where project_id = $1 and parent_id is null
    union all
    select f.id, trail.path || '/' || f.name from folder f join trail on f.parent_id = trail.id
  )
  select f.id, f.name, f.folder_id, case when t.path is null then f.name else t.path || '/' || f.name end as path, f.deleted_in is not null as deleted, p.name as holder, p.id as holder_id,
    v.number as newest, v.id as newest_id, v.content_id, c.hash, c.size, c.format, v.made_at
  from file f left join trail t on t.id = f.folder_id
  cross join lateral (select id from line where file_id = f.id and position = 0 limit 1) l
  cross join lateral (select id, number, content_id, made_at from version where store_id = ${STORE} and line_id = l.id order by number desc limit 1) v
  join content c on c.store_id = ${STORE} and c.id = v.content_id
  left join checkout o on o.line_id = l.id left join person p on p.id = o.person_id
  where f.project_id = $1 and ($2::uuid[] is null or f.id = any($2)) order by path`,
    [projectId, ids ?? null],
  );

interface Resolved {
  readonly reference: { readonly target: string; readonly kind: string };
  readonly found: string;
  readonly file?: { readonly id: string } | undefined;
}

/**
 * What a version needs, each at its newest version at that moment; what came in the same set counts as there already.
 */
export async function insertReferences(
  client: Db,
  versionId: string,
  { made_at, set_id }: { readonly made_at: Date; readonly set_id: string | null },
  resolved: readonly Resolved[],
): Promise<void> {
  await client.query(
    `insert into version_reference (store_id, version_id, place, target, kind, found, to_file_id, to_version_id)
     select $1, $2, t.place, t.target, t.kind, t.found, t.file, (
       select v.id from version v join line l on l.id = v.line_id and l.position = 0
       where v.store_id = $1 and v.file_id = t.file and (v.made_at <= $8 or v.set_id = $9)
       order by v.number desc limit 1)
     from unnest($3::int[], $4::text[], $5::text[], $6::text[], $7::uuid[]) as t(place, target, kind, found, file)`,
    [
      STORE,
      versionId,
      resolved.map((_, i) => i),
      resolved.map((r) => r.reference.target),
      resolved.map((r) => r.reference.kind),
      resolved.map((r) => r.found),
      resolved.map((r) => r.file?.id ?? null),
      made_at,
      set_id,
    ],
  );
}

/** The latest version of the main line with such a content, for each, where a person may see it. */
export function versionsWithContent(
  client: Db,
  projectId: string,
  asked: readonly { readonly fileId: string; readonly sha256: string }[],
  scope: Scope,
): Promise<{ file_id: string; id: string; number: number; sha256: string }[]> {
  const values: unknown[] = [STORE, projectId, asked.map((a) => a.fileId), asked.map((a) => a.sha256)];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  return many(
    client,
    `select distinct on (v.file_id) v.file_id, v.id, v.number, a.sha256
     from unnest($3::uuid[], $4::text[]) as a(file_id, sha256)
     join content c on c.store_id = $1 and c.hash = decode(a.sha256, 'hex')
     join version v on v.store_id = $1 and v.content_id = c.id and v.file_id = a.file_id
     join line l on l.id = v.line_id and l.position = 0
     join file f on f.id = v.file_id
     where f.project_id = $2 and ${seen}
     order by v.file_id, v.number desc`,
    values,
  );
}
