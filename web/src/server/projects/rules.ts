/** What a project says of all below it, and folders or files otherwise for themselves: the nearest that says anything decides. */
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permit, placeOfFile, type Place } from '../people/access.ts';
import { notFound } from '../problem.ts';
import { projectOfFolder, ruleAbove, ruleSaid, sayRule, type RuleColumn, type WhereRule } from './rows.ts';

export interface Rule {
  /** Where it is kept. */
  readonly column: RuleColumn;
  /** What one needs a right for, to change it. */
  readonly doing: string;
  /** What is said, in the ledger. */
  readonly says: (value: boolean) => string;
}

/** Every check-in needs a note. */
export const noteRule: Rule = {
  column: 'note_required',
  doing: 'say whether notes are required',
  says: (required) => `notes are ${required ? 'required' : 'optional'}`,
};

/** Saves count at once; else people work by check-outs. */
export const savesRule: Rule = {
  column: 'saves_count',
  doing: 'say how people work here',
  says: (counts) => (counts ? 'saves count at once' : 'people work by check-outs'),
};

/** What holds at a place. */
export const holds = async (
  client: Db,
  { column }: Rule,
  place: Place & { readonly fileId?: string },
): Promise<boolean> => (await ruleAbove(client, column, place))?.holds ?? false;

/** What a project, a folder or a file says itself; null: nothing. */
export const said = async (client: Db, { column }: Rule, where: WhereRule): Promise<boolean | null> =>
  (await ruleSaid(client, column, where))?.said ?? null;

async function placeOf({ what, id }: WhereRule): Promise<Place> {
  if (what === 'file') return placeOfFile(id);
  if (what === 'project') return { projectId: id, folderId: null };
  const row = await projectOfFolder(db(), id);
  if (!row) throw notFound('folder');
  return { projectId: row.project_id, folderId: id };
}

/** Null: as what holds it; of a project, which nothing holds, no. */
export async function setRule(by: Person, rule: Rule, where: WhereRule, value: boolean | null): Promise<void> {
  const place = await placeOf(where);
  await permit(by, 'manage', place, rule.doing);
  await transaction(async (client) => {
    const changed = await sayRule(client, rule.column, where, where.what === 'project' ? (value ?? false) : value);
    if (!changed) throw notFound(where.what);
    const subject = `${changed.name}: ${value === null ? 'as above' : rule.says(value)}`;
    await record(client, [{ act: 'changed rules', by, subject, projectId: place.projectId }]);
  });
}
