import { many, one, type Client, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export interface LineState {
  readonly id: string;
  readonly file_id: string;
  readonly name: string;
  readonly position: number;
  readonly closed_at: Date | null;
}

export const lineRow = (client: Db, lineId: string): Promise<LineState | undefined> =>
  one<LineState>(client, 'select id, file_id, name, position, closed_at from line where id = $1', [lineId]);

export const hasLineCalled = async (
  client: Db,
  fileId: string,
  name: string,
  besides: string | null,
): Promise<boolean> =>
  (await one(client, 'select 1 from line where file_id = $1 and lower(name) = lower($2) and id is distinct from $3', [
    fileId,
    name,
    besides,
  ])) !== undefined;

export const nextPosition = async (client: Db, fileId: string): Promise<number> =>
  (await one<{ next: number }>(client, 'select max(position) + 1 as next from line where file_id = $1', [fileId]))
    ?.next ?? 0;

export async function changeLineRow(client: Client, lineId: string, name: string, closed: boolean): Promise<void> {
  await client.query(
    'update line set name = $2, closed_at = case when $3 then coalesce(closed_at, now()) end where id = $1',
    [lineId, name, closed],
  );
}

export interface CopiedVersion {
  readonly id: string;
  readonly number: number;
  readonly content_id: string;
  readonly note: string;
  readonly title: string | null;
  readonly kind: 'check-in' | 'autosave' | 'backup';
  readonly upload_name: string;
  readonly made_by: string;
  readonly made_at: Date;
}

/** A version and all that it follows, oldest first. */
export const versionsUpTo = (client: Db, versionId: string): Promise<CopiedVersion[]> =>
  many<CopiedVersion>(
    client,
    `
    with recursive back as (
      select $2::uuid as id, 0 as step
      union all
      select p.parent_id, back.step + 1 from version_parent p join back on p.store_id = $1 and p.version_id = back.id
      where p.role = 'follows'
    )
    select v.id, v.number, v.content_id, v.note, v.title, v.kind, v.upload_name, v.made_by, v.made_at
    from back join version v on v.store_id = $1 and v.id = back.id order by back.step desc`,
    [STORE, versionId],
  );

export interface RelativeRow {
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  readonly folder_id: string | null;
  readonly version_id: string;
  readonly number: number;
  readonly newest_id: string;
}

/** `source`: the version that was branched off; `f`: the file that is told of. */
const relatives = `
  select f.id as file_id, f.name as file, f.project_id, f.folder_id, source.id as version_id, source.number,
    (select n.id from line l join version n on n.store_id = $1 and n.line_id = l.id
     where l.file_id = f.id and l.position = 0 order by n.number desc limit 1) as newest_id
  from version_parent p
  join version source on source.store_id = $1 and source.id = p.parent_id
  join version made on made.store_id = $1 and made.id = p.version_id`;

/** What a file was made from. */
export const madeFrom = (client: Db, fileId: string): Promise<RelativeRow | undefined> =>
  one<RelativeRow>(
    client,
    `${relatives} join file f on f.id = source.file_id
     where p.store_id = $1 and p.role = 'branched off from' and made.file_id = $2 limit 1`,
    [STORE, fileId],
  );

/** What was made of a file. */
export const madeOf = (client: Db, fileId: string): Promise<RelativeRow[]> =>
  many<RelativeRow>(
    client,
    `${relatives} join file f on f.id = made.file_id
     where p.store_id = $1 and p.role = 'branched off from' and source.file_id = $2 and f.deleted_in is null
     order by made.made_at`,
    [STORE, fileId],
  );
