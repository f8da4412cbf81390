/** Whether check-ins need a note: a project says so, or a folder for all below it. */
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permit, type Place } from '../people/access.ts';
import { notFound } from '../problem.ts';
import {
  noteRuleAbove,
  noteRuleOfFolder,
  noteRuleOfProject,
  projectOfFolder,
  setFolderNoteRule,
  setProjectNoteRule,
} from './rows.ts';

/** The nearest folder that says anything decides; else the project. */
export async function noteRequired(client: Db, projectId: string, folderId: string | null): Promise<boolean> {
  const row = await noteRuleAbove(client, projectId, folderId);
  return row?.required ?? false;
}

/** What a folder, or the project itself, says; null: nothing. */
export async function noteRule(client: Db, projectId: string, folderId: string | null): Promise<boolean | null> {
  const row = await (folderId ? noteRuleOfFolder(client, folderId) : noteRuleOfProject(client, projectId));
  return row?.rule ?? null;
}

async function placeOf(folderId: string): Promise<Place> {
  const row = await projectOfFolder(db(), folderId);
  if (!row) throw notFound('folder');
  return { projectId: row.project_id, folderId };
}

function sayRule(required: boolean | null): string {
  if (required === null) return 'as above';
  return required ? 'required' : 'optional';
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
        ? await setFolderNoteRule(client, where.folderId, required)
        : await setProjectNoteRule(client, where.projectId, required ?? false);
    if (!changed) throw notFound('folderId' in where ? 'folder' : 'project');
    await record(client, [
      {
        act: 'changed rules',
        by,
        subject: `${changed.name}: notes are ${sayRule(required)}`,
        projectId: changed.project_id,
      },
    ]);
  });
}
