/** What a desk asks about contents: which version one is, or which file of the project it is most like. */
import { ALIKE, likeness } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { Known, Resembling } from '../../contract/desk.ts';
import { db, many } from '../db/pool.ts';
import { scopeIn } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { sketchFor } from '../facts/sketch.ts';

/** Sketches are made soon after a check-in; of those that are not there yet, this many are made at once. */
const MADE_NOW = 40;

interface Row {
  id: string;
  folder_id: string | null;
  content_id: string;
  upload_name: string;
  size: string;
  format: string | null;
  sketched: boolean;
}

export async function resembling(
  by: Person,
  projectId: string,
  unknown: readonly { path: string; sketch: readonly number[] }[],
): Promise<Resembling[]> {
  const scope = await scopeIn(by, 'see', projectId);
  const rows = await many<Row & Record<string, unknown>>(
    db(),
    `
    select f.id, f.folder_id, v.content_id, v.upload_name, c.size, c.format,
      exists (select 1 from fact k where k.store_id = $2 and k.content_id = v.content_id and k.kind = 'sketch') as sketched
    from file f
    cross join lateral (select id from line where file_id = f.id and position = 0 limit 1) l
    cross join lateral (select content_id, upload_name from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
    join content c on c.store_id = $2 and c.id = v.content_id
    where f.project_id = $1 and f.deleted_in is null`,
    [projectId, STORE],
  );
  const asked = unknown.map((u) => ({
    path: u.path,
    sketch: Uint32Array.from(u.sketch),
    best: undefined as { fileId: string; likeness: number } | undefined,
  }));
  let made = 0;
  for (const row of rows) {
    if (!scope.has(projectId, row.folder_id) || (!row.sketched && ++made > MADE_NOW)) continue;
    const kept = await sketchFor(row);
    for (const one of asked) {
      const alike = likeness(one.sketch, kept);
      if (alike >= ALIKE && alike > (one.best?.likeness ?? 0)) one.best = { fileId: row.id, likeness: alike };
    }
  }
  return asked.flatMap(({ path, best }) => (best ? [{ path, ...best }] : []));
}

/** The latest version of the main line with such a content, for each; contents that are none are left out. */
export async function knownVersions(
  by: Person,
  projectId: string,
  asked: readonly { fileId: string; sha256: string }[],
): Promise<Known[]> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const values: unknown[] = [STORE, projectId, asked.map((a) => a.fileId), asked.map((a) => a.sha256)];
  const rows = await many<{ file_id: string; id: string; number: number; sha256: string }>(
    db(),
    `
    select distinct on (v.file_id) v.file_id, v.id, v.number, a.sha256
    from unnest($3::uuid[], $4::text[]) as a(file_id, sha256)
    join content c on c.store_id = $1 and c.hash = decode(a.sha256, 'hex')
    join version v on v.store_id = $1 and v.content_id = c.id and v.file_id = a.file_id
    join line l on l.id = v.line_id and l.position = 0
    join file f on f.id = v.file_id
    where f.project_id = $2 and ${scope.condition('f.project_id', 'f.folder_id', values)}
    order by v.file_id, v.number desc`,
    values,
  );
  return rows.map((r) => ({ fileId: r.file_id, versionId: r.id, number: r.number, sha256: r.sha256 }));
}
