/** Whether check-ins need a note: a project says so, or a folder for all below it. */
import type { Person } from '../../contract/api.ts';
import { db, one, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permit, type Place } from '../people/access.ts';
import { notFound } from '../problem.ts';

/** The nearest folder that says anything decides; else the project. */
export async function noteRequired(client: Db, projectId: string, folderId: string | null): Promise<boolean> {
  const row = await one<{ required: boolean }>(
    client,
    `
    with recursive up as (
      select id, parent_id, note_required, 0 as step from folder where id = $2
      union all
      select f.id, f.parent_id, f.note_required, up.step + 1 from folder f join up on f.id = up.parent_id
    )
    select coalesce((select note_required from up where note_required is not null order by step limit 1), (select note_required from project where id = $1), false) as required`,
    [projectId, folderId],
  );
  return row?.required ?? false;
}

/** What a folder, or the project itself, says; null: nothing. */
export async function noteRule(client: Db, projectId: string, folderId: string | null): Promise<boolean | null> {
  const row = await (folderId
    ? one<{ rule: boolean | null }>(client, 'select note_required as rule from folder where id = $1', [folderId])
    : one<{ rule: boolean | null }>(client, 'select note_required as rule from project where id = $1', [projectId]));
  return row?.rule ?? null;
}

async function placeOf(folderId: string): Promise<Place> {
  const row = await one<{ project_id: string }>(db(), 'select project_id from folder where id = $1', [folderId]);
  if (!row) throw notFound('folder');
  return { projectId: row.project_id, folderId };
}

export async function setNoteRule(
  by: Person,
  where: { projectId: string } | { folderId: string },
  required: boolean | null,
): Promise<void> {
  const place = 'folderId' in where ? await placeOf(where.folderId) : { projectId: where.projectId, folderId: null };
  await permit(by, 'manage', place, 'say whether notes are required');
  await transaction(async (client) => {
    const changed =
      'folderId' in where
        ? await one<{ name: string; project_id: string }>(
            client,
            'update folder set note_required = $2 where id = $1 returning name, project_id',
            [where.folderId, required],
          )
        : await one<{ name: string; project_id: string }>(
            client,
            'update project set note_required = $2 where id = $1 returning name, id as project_id',
            [where.projectId, required ?? false],
          );
    if (!changed) throw notFound('folderId' in where ? 'folder' : 'project');
    await record(client, [
      {
        act: 'changed rules',
        by,
        subject: `${changed.name}: notes are ${required === null ? 'as above' : required ? 'required' : 'optional'}`,
        projectId: changed.project_id,
      },
    ]);
  });
}
