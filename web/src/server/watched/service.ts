/** Watched folders: set and ended by administrators. */
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { Looked, newWatchedSchema, Watched, WatchedList } from '../../contract/watched.ts';
import { config } from '../config.ts';
import { db, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permit } from '../people/access.ts';
import { require } from '../people/permissions.ts';
import { notFound, Problem } from '../problem.ts';
import { folderIn } from '../projects/service.ts';
import { folderOf, lookAtWatched } from './look.ts';
import { deleteWatched, insertWatched, watchedRow, watchedRows, type WatchedRow } from './rows.ts';

const watchedOf = (row: WatchedRow): Watched => ({
  id: row.id,
  path: row.path,
  project: { id: row.project_id, name: row.project },
  folder: row.folder_id === null ? null : { id: row.folder_id, name: row.folder ?? '' },
  everyMinutes: row.every_minutes,
  by: { id: row.by_id, name: row.by_name },
  lookedAt: row.looked_at?.toISOString() ?? null,
  problem: row.problem,
  problems: row.problems,
  files: row.files,
});

export async function listWatched(by: Person): Promise<WatchedList> {
  require(by, 'watch folders');
  return { root: config.watchedRoot ?? null, folders: (await watchedRows(db())).map(watchedOf) };
}

export async function makeWatched(
  by: Person,
  { path: given, projectId, folderId, everyMinutes }: z.output<typeof newWatchedSchema>,
): Promise<Watched> {
  require(by, 'watch folders');
  await permit(by, 'check out', { projectId, folderId: folderId ?? null }, 'have versions made');
  if (folderId !== undefined) await folderIn(db(), folderId, projectId);
  const path = given.replace(/^\/+|\/+$/g, '');
  await folderOf(path).catch(() => {
    throw new Problem(
      400,
      'no-such-folder',
      config.watchedRoot === undefined
        ? 'This installation allows no watched folders. Set OVREL_WATCHED_ROOT to the folder in which they lie, and start Ovrel again.'
        : `There is no folder “${path}” in ${config.watchedRoot} that can be read.`,
    );
  });
  const id = await transaction(async (client) => {
    const made = await insertWatched(client, { path, projectId, folderId: folderId ?? null, everyMinutes, by: by.id });
    if (!made) throw new Problem(409, 'watched', `“${path}” is watched already.`);
    await record(client, [{ act: 'watched a folder', by, subject: path, projectId }]);
    return made.id;
  });
  const row = await watchedRow(db(), id);
  if (!row) throw notFound('watched folder');
  return watchedOf(row);
}

export async function removeWatched(by: Person, id: string): Promise<void> {
  require(by, 'watch folders');
  await transaction(async (client) => {
    const gone = await deleteWatched(client, id);
    if (!gone) throw notFound('watched folder');
    await record(client, [{ act: 'watched a folder', by, subject: `${gone.path}, no more` }]);
  });
}

export async function lookNow(by: Person, id: string): Promise<Looked> {
  require(by, 'watch folders');
  if (!(await watchedRow(db(), id))) throw notFound('watched folder');
  return lookAtWatched(id);
}
