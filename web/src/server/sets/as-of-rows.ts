import { many, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export interface ThenRow {
  readonly file_id: string;
  readonly name: string;
  readonly folder_id: string | null;
  readonly deleted: boolean;
  readonly holder_id: string | null;
  readonly holder: string | null;
  readonly then_id: string | null;
  readonly then_number: number | null;
  readonly then_by: string | null;
  readonly then_at: Date | null;
  readonly then_note: string | null;
  readonly then_format: string | null;
  readonly then_content: string | null;
  readonly then_upload: string | null;
  readonly now_id: string;
  readonly now_number: number;
  readonly now_by: string;
  readonly now_at: Date;
  readonly now_note: string;
  readonly now_format: string | null;
  readonly now_content: string;
}

/** Files that were there at a moment or are there now, each with its version then and now. */
export const filesThenAndNow = (client: Db, projectId: string, at: string): Promise<ThenRow[]> =>
  many<ThenRow>(
    client,
    `
    select f.id as file_id, f.name, f.folder_id, f.deleted_in is not null as deleted,
      holder.id as holder_id, holder.name as holder,
      old.id as then_id, old.number as then_number, old_by.name as then_by, old.made_at as then_at, old.note as then_note,
      old_content.format as then_format, old.content_id as then_content, old.upload_name as then_upload,
      new.id as now_id, new.number as now_number, new_by.name as now_by, new.made_at as now_at, new.note as now_note,
      new_content.format as now_format, new.content_id as now_content
    from file f
    join line l on l.file_id = f.id and l.position = 0
    join lateral (
      select * from version where store_id = $1 and line_id = l.id order by number desc limit 1) new on true
    join person new_by on new_by.id = new.made_by
    join content new_content on new_content.store_id = $1 and new_content.id = new.content_id
    left join lateral (
      select * from version where store_id = $1 and line_id = l.id and made_at <= $3 order by number desc limit 1) old on true
    left join person old_by on old_by.id = old.made_by
    left join content old_content on old_content.store_id = $1 and old_content.id = old.content_id
    left join checkout held on held.line_id = l.id
    left join person holder on holder.id = held.person_id
    left join checkin_set gone on gone.id = f.deleted_in
    where f.project_id = $2 and (gone.id is null or gone.made_at > $3) and (gone.id is null or old.id is not null)
    order by lower(f.name)`,
    [STORE, projectId, at],
  );

/** How many versions of main lines were made on each day, folder by folder. */
export const daysOfProject = (
  client: Db,
  projectId: string,
): Promise<{ day: string; folder_id: string | null; versions: number }[]> =>
  many(
    client,
    `
    select to_char(v.made_at at time zone 'UTC', 'YYYY-MM-DD') as day, f.folder_id, count(*)::int as versions
    from file f
    join line l on l.file_id = f.id and l.position = 0
    join version v on v.store_id = $1 and v.line_id = l.id
    where f.project_id = $2 group by 1, 2 order by 1`,
    [STORE, projectId],
  );
