import { many, one, type Client, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import type { Newest } from '../versions/rows.ts';

/** The newest version of a line of saves, and where that line began. */
export interface OwnSaves extends Newest {
  readonly from_id: string;
}

/** Lines that somebody saves on beside the main one, and that are open; the latest first. */
export const ownSaves = (client: Db, fileId: string, personId: string): Promise<OwnSaves[]> =>
  many<OwnSaves>(
    client,
    `
    select v.id, v.number, v.content_id, v.line_id, l.position, l.from_id
    from line l
    cross join lateral (
      select * from version where store_id = $1 and line_id = l.id order by number desc limit 1) v
    where l.file_id = $2 and l.saves_of = $3 and l.closed_at is null
    order by l.position desc`,
    [STORE, fileId, personId],
  );

/** The newest version of the line that a version is on, where that line is open. */
export const newestBeside = (client: Db, fileId: string, versionId: string): Promise<Newest | undefined> =>
  one<Newest>(
    client,
    `
    select n.id, n.number, n.content_id, n.line_id, l.position
    from version v
    join line l on l.id = v.line_id and l.closed_at is null
    cross join lateral (
      select * from version where store_id = $1 and line_id = l.id order by number desc limit 1) n
    where v.store_id = $1 and v.id = $3 and v.file_id = $2`,
    [STORE, fileId, versionId],
  );

export async function markSavesLine(client: Client, lineId: string, personId: string): Promise<void> {
  await client.query('update line set saves_of = $2 where id = $1', [lineId, personId]);
}

/** What somebody saved beside the main line is kept, and takes no more. Gives the last version of each such line. */
export const closeSaves = (client: Client, fileIds: readonly string[], personId: string): Promise<{ id: string }[]> =>
  many(
    client,
    `
    with closed as (
      update line set closed_at = now() where file_id = any($2) and saves_of = $3 and closed_at is null returning id
    )
    select v.id from closed
    cross join lateral (
      select id from version where store_id = $1 and line_id = closed.id order by number desc limit 1) v`,
    [STORE, fileIds, personId],
  );

export interface SaveRow {
  readonly id: string;
  readonly number: number;
  readonly kind: 'check-in' | 'autosave' | 'backup';
  readonly title: string | null;
  readonly by: string;
  readonly made_at: Date;
  readonly set_id: string;
  readonly content_id: string;
}

/** The last versions of a line up to one, the latest first. */
export const lastOfLine = (client: Db, lineId: string, upTo: number, most: number): Promise<SaveRow[]> =>
  many<SaveRow>(
    client,
    `
    select id, number, kind, title, made_by as by, made_at, set_id, content_id from version
    where store_id = $1 and line_id = $2 and number <= $3 order by number desc limit $4`,
    [STORE, lineId, upTo, most],
  );

/** What a version follows. */
export const followedBy = (client: Db, versionId: string): Promise<{ id: string; number: number } | undefined> =>
  one(
    client,
    `
    select v.id, v.number from version_parent p join version v on v.store_id = $1 and v.id = p.parent_id
    where p.store_id = $1 and p.version_id = $2 and p.role = 'follows'`,
    [STORE, versionId],
  );
