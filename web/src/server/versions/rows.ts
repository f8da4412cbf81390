/** Rows of versions, ready for the interface. Joins expect `v` (version) and `l` (line). */
import { ENGINE } from '@ovrel/core';
import type { Version } from '../../contract/api.ts';
import { db, many, one, type Db } from '../db/pool.ts';
import { notFound } from '../problem.ts';
import { STORE } from '../store/copy.ts';

export interface VersionRow {
  id: string;
  file_id: string;
  number: number;
  line: string;
  kind: Version['kind'];
  title: string | null;
  note: string;
  by_id: string;
  by_name: string;
  made_at: Date;
  size: string;
  hash: Buffer;
  format: string | null;
  upload_name: string;
  source_number: number | null;
  set_number: number | null;
  summary: string | null;
  content_id: string;
  parent_content_id: string | null;
}

export const versionColumns = `
  v.id, v.file_id, v.number, l.name as line, v.kind, v.title, v.note, maker.id as by_id, maker.name as by_name, v.made_at,
  c.size, c.hash, c.format, v.upload_name, source.number as source_number, checkin_set.number as set_number, v.content_id, parent.content_id as parent_content_id,
  (select k.summary from comparison k
   where k.store_id = v.store_id and k.content_a = parent.content_id and k.content_b = v.content_id and k.engine = '${ENGINE}' and k.options not like '% within %' limit 1) as summary`;

export const versionJoins = `
  join person maker on maker.id = v.made_by
  left join checkin_set on checkin_set.id = v.set_id
  join content c on c.store_id = v.store_id and c.id = v.content_id
  left join version source on source.store_id = v.store_id and source.id = v.source_id
  left join version parent on parent.store_id = v.store_id and parent.id = v.parent_id`;

export const versionOf = (r: VersionRow): Version => ({
  id: r.id,
  fileId: r.file_id,
  number: r.number,
  line: r.line,
  kind: r.kind,
  title: r.title,
  note: r.note,
  by: { id: r.by_id, name: r.by_name },
  at: r.made_at.toISOString(),
  size: Number(r.size),
  sha256: r.hash.toString('hex'),
  format: r.format,
  uploadName: r.upload_name,
  source: r.source_number,
  set: r.set_number ?? 0,
  summary: r.summary,
});

export const versionSelect = `select ${versionColumns} from version v join line l on l.id = v.line_id ${versionJoins}`;

export type SubjectRow = Pick<VersionRow, 'content_id' | 'upload_name' | 'size' | 'format'>;

/** The content of the version that this one follows. */
export const parentSubject = (client: Db, versionId: string): Promise<SubjectRow | undefined> =>
  one<SubjectRow>(
    client,
    `select c.id as content_id, parent.upload_name, c.size, c.format
     from version v
     join version parent on parent.store_id = v.store_id and parent.id = v.parent_id
     join content c on c.store_id = parent.store_id and c.id = parent.content_id
     where v.store_id = $1 and v.id = $2`,
    [STORE, versionId],
  );

/** All versions of all lines of a file, in the order in which they were made. */
export const versionsOfFile = (client: Db, fileId: string): Promise<VersionRow[]> =>
  many<VersionRow>(client, `${versionSelect} where v.store_id = $1 and v.file_id = $2 order by v.made_at`, [
    STORE,
    fileId,
  ]);

export async function versionRow(id: string): Promise<VersionRow> {
  const row = await one<VersionRow>(db(), `${versionSelect} where v.store_id = $1 and v.id = $2`, [STORE, id]);
  if (!row) throw notFound('version');
  return row;
}
