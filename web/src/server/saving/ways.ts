/** The two ways to work: by check-outs, or so that saves count at once. A file says so, or a folder, or the project. */
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permit, placeOfFile, type Place } from '../people/access.ts';
import { notFound } from '../problem.ts';
import { projectOfFolder } from '../projects/rows.ts';
import { saysOfSaves, setSaysOfSaves, type WhereSaves } from './rows.ts';

/** What a folder, a file, or the project itself says; null: as what holds it. */
export const saysOf = async (client: Db, where: WhereSaves): Promise<boolean | null> =>
  (await saysOfSaves(client, where))?.counts ?? null;

async function placeOf(where: WhereSaves): Promise<Place> {
  if (where.what === 'file') return placeOfFile(where.id);
  if (where.what === 'project') return { projectId: where.id, folderId: null };
  const row = await projectOfFolder(db(), where.id);
  if (!row) throw notFound('folder');
  return { projectId: row.project_id, folderId: where.id };
}

const sayWay = (counts: boolean | null): string => {
  if (counts === null) return 'saves as above';
  return counts ? 'saves count at once' : 'check-outs';
};

export async function setWay(by: Person, where: WhereSaves, counts: boolean | null): Promise<void> {
  const place = await placeOf(where);
  await permit(by, 'manage', place, 'say how people work here');
  await transaction(async (client) => {
    const changed = await setSaysOfSaves(client, where, where.what === 'project' ? (counts ?? false) : counts);
    if (!changed) throw notFound(where.what);
    const subject = `${changed.name}: ${sayWay(counts)}`;
    await record(client, [{ act: 'changed rules', by, subject, projectId: place.projectId }]);
  });
}
