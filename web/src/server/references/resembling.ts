/** For files that a desk does not know: which file of the project each is most like, by what it holds. */
import { ALIKE, likeness } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { Resembling } from '../../contract/desk.ts';
import { db, many } from '../db/pool.ts';
import { permit, scopeOf } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { sketchFor } from '../versions/facts.ts';

/** Sketches are made soon after a check-in; of those that are not there yet, this many are made at once. */
const MADE_NOW = 40;

interface Row {
  id: string; folder_id: string | null; content_id: string; upload_name: string; size: string; format: string | null; sketched: boolean;
}

export async function resembling(by: Person, projectId: string, unknown: readonly { path: string; sketch: readonly number[] }[]): Promise<Resembling[]> {
  const scope = await scopeOf(by, 'see', projectId);
  if (!scope.any(projectId)) await permit(by, 'see', { projectId, folderId: null });
  const rows = await many<Row & Record<string, unknown>>(db(), `
    select f.id, f.folder_id, v.content_id, v.upload_name, c.size, c.format,
      exists (select 1 from fact k where k.store_id = $2 and k.content_id = v.content_id and k.kind = 'sketch') as sketched
    from file f
    cross join lateral (select id from line where file_id = f.id and position = 0 limit 1) l
    cross join lateral (select content_id, upload_name from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
    join content c on c.store_id = $2 and c.id = v.content_id
    where f.project_id = $1 and f.deleted_in is null`, [projectId, STORE]);
  const asked = unknown.map((u) => ({ path: u.path, sketch: Uint32Array.from(u.sketch), best: undefined as { fileId: string; likeness: number } | undefined }));
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
