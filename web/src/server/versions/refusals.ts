/** Why something is not checked in, each with its sentence. */
import { cardOf, isSameFormat, type Card } from '@ovrel/core';
import type { FileEntry, Person } from '../../contract/api.ts';
import { refuseHeldByOther } from '../checkouts/service.ts';
import type { Db } from '../db/pool.ts';
import { Problem } from '../problem.ts';
import { holds, noteRule } from '../projects/rules.ts';
import { hasFileCalled } from '../projects/rows.ts';
import type { Newest } from './rows.ts';
import { takenOverFrom } from './rows.ts';

const LONGEST_NOTE = 4000;
const count = (n: number): string => n.toLocaleString('en');

export function checkNote(note: string): void {
  if (note.length <= LONGEST_NOTE) return;
  throw new Problem(
    400,
    'note-too-long',
    `The note has ${count(note.length)} characters; it can have at most ${count(LONGEST_NOTE)}.`,
  );
}

/** Each folder is asked about once. */
export async function refuseNoteless(
  client: Db,
  projectId: string,
  folders: Iterable<string | null>,
  note: string,
): Promise<void> {
  if (note.trim()) return;
  for (const folderId of new Set(folders))
    if (await holds(client, noteRule, { projectId, folderId }))
      throw new Problem(400, 'note-required', 'Here every check-in needs a note: say why.');
}

/** Nobody's work is overwritten: neither what somebody else holds, nor what landed meanwhile. */
export async function refuseConflict(
  client: Db,
  fileId: string,
  by: Person,
  newest: Newest | undefined,
  base: string | undefined,
): Promise<void> {
  const over = newest && (await takenOverFrom(client, newest.line_id, by.id));
  if (over)
    throw new Problem(
      409,
      'taken-over',
      `${over.name} took your check-out over (“${over.reason}”). Check your work in as a branch: it stays whole, beside the line that it was on.`,
      { branch: true },
    );
  if (newest) await refuseHeldByOther(client, newest.line_id, by);
  if (!base || !newest || newest.id === base) return;
  throw new Problem(
    409,
    'newer-version',
    `v${newest.number} was checked in while you were at work. Nothing of yours was stored yet: look at v${newest.number} first, or check in on top of it.`,
    { newest: newest.number, newestId: newest.id },
  );
}

/** Told before another name clash can cost a whole upload. */
export async function refuseTaken(client: Db, projectId: string, folderId: string | null, name: string): Promise<void> {
  if (!(await hasFileCalled(client, projectId, folderId, name))) return;
  throw new Problem(
    409,
    'name-taken',
    `There is already a file called “${name}” here (capitals do not count). Open it to check in a new version, or choose another name.`,
  );
}

export function refuseOtherFormat(file: FileEntry, format: string | null): void {
  const before = file.newest.format;
  if (before === format || isSameFormat(cardOf(before), cardOf(format))) return;
  throw new Problem(
    409,
    'other-format',
    `The newest version of “${file.name}” is ${sayFormat(cardOf(before))}; what you are checking in is ${sayFormat(cardOf(format))}. Check it in all the same?`,
    { before, now: format },
  );
}

const sayFormat = (card: Card | undefined): string => (card ? `a ${card.title}` : 'a file of unknown kind');
