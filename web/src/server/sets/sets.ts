/** Check-in sets: what changed together. Every act that makes versions, deletes or brings back is one. */
import type { Person } from '../../contract/api.ts';
import type { z } from 'zod';
import type { CheckinSet, setCountSchema, SetKind, setsQuerySchema } from '../../contract/desk.ts';
import { db, type Client } from '../db/pool.ts';
import { permit, scopeIn, scopeOf, type Scope } from '../people/access.ts';
import { notFound } from '../problem.ts';
import { countSets, filesOfSets, insertSet, makers, setRow, setRows, type MadeSet, type SetRow } from './rows.ts';

const PAGE = 50;

export interface NewSet {
  readonly projectId: string;
  readonly kind: SetKind;
  readonly note: string;
  readonly by: string;
  readonly at?: Date | undefined;
}

/** Makes a set and numbers it. Holds the project's row until the transaction ends; files are locked before. */
export async function newSet(client: Client, { projectId, kind, note, by, at }: NewSet): Promise<MadeSet> {
  const row = await insertSet(client, projectId, kind, note, by, at);
  if (!row) throw notFound('project');
  return row;
}

/** Sets with those of their files whose history the person may see. */
async function withFiles(rows: readonly SetRow[], scope: Scope): Promise<CheckinSet[]> {
  const files = await filesOfSets(
    db(),
    rows.map((r) => r.id),
    scope,
  );
  return rows.map((r) => ({
    id: r.id,
    projectId: r.project_id,
    number: r.number,
    kind: r.kind,
    note: r.note,
    by: { id: r.by_id, name: r.by_name },
    at: r.made_at.toISOString(),
    files: files
      .filter((f) => f.set_id === r.id)
      .map((f) => ({
        fileId: f.file_id,
        name: f.name,
        versionId: f.version_id,
        parentId: f.parent_id,
        version: f.version,
        line: f.line,
        summary: f.summary,
        first: f.first,
        deleted: f.deleted,
      })),
  }));
}

/**
 * Sets of a project, newest first; of one file, if it is given. Sets of which the person may see nothing are left out.
 */
export async function listSets(
  by: Person,
  projectId: string,
  { before, file, ...filter }: z.output<typeof setsQuerySchema>,
): Promise<CheckinSet[]> {
  const scope = await scopeIn(by, 'see old versions', projectId, 'see the history');
  return withFiles(await setRows(db(), projectId, { before, file, filter, most: PAGE }, scope), scope);
}

/** How many sets there are, and of how many of them a filter leaves nothing. */
export async function countedSets(
  by: Person,
  projectId: string,
  { before, file, ...filter }: z.output<typeof setsQuerySchema>,
): Promise<z.infer<typeof setCountSchema>> {
  const scope = await scopeIn(by, 'see old versions', projectId, 'see the history');
  const wanted = { before, file, most: PAGE };
  const all = await countSets(db(), projectId, { ...wanted, filter: {} }, scope);
  return { all, filteredOut: all - (await countSets(db(), projectId, { ...wanted, filter }, scope)) };
}

export async function getSet(by: Person, id: string): Promise<CheckinSet> {
  const row = await setRow(db(), id);
  if (!row) throw notFound('check-in set');
  const scope = await scopeOf(by, 'see old versions', row.project_id);
  const set = (await withFiles([row], scope))[0];
  if (set?.files.length) return set;
  await permit(by, 'see old versions', { projectId: row.project_id, folderId: null }, 'see the history');
  throw notFound('check-in set');
}

/** A set as whoever has just checked it in is told of it. */
export async function madeSet(by: Person, id: string): Promise<CheckinSet | null> {
  const row = await setRow(db(), id);
  return row ? ((await withFiles([row], await scopeOf(by, 'see', row.project_id)))[0] ?? null) : null;
}

/** Who made versions of a project, or of one file, as far as the person may see its past. */
export async function makersOf(
  by: Person,
  where: { readonly projectId: string; readonly fileId?: string },
): Promise<{ id: string; name: string }[]> {
  await scopeIn(by, 'see old versions', where.projectId, 'see the history');
  return makers(db(), where);
}
