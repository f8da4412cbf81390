/** A project or folder turned back to a moment: looked at, and brought forward as a whole. */
import type { z } from 'zod';
import type { Folder, Person } from '../../contract/api.ts';
import type { AsOf, bringForwardToSchema, broughtForwardSchema } from '../../contract/as-of.ts';
import { refuseAnyHeldByOther, refuseHeldByOther } from '../checkouts/service.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit, scopeIn } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { lockProject } from '../projects/rows.ts';
import { foldersOf } from '../projects/service.ts';
import { refuseNoteless } from '../versions/refusals.ts';
import { appendVersion, lockFile, type Locked } from '../versions/service.ts';
import { daysOfProject, filesThenAndNow, type ThenRow } from './as-of-rows.ts';
import { takeOut } from './deleting.ts';
import { newSet } from './sets.ts';

/** Names that a refusal lists. */
const FEW = 5;

/** What was there at the moment or is there now, in a folder with all below it, as far as the person may see the past. */
export async function asOf(by: Person, projectId: string, at: string, folderId?: string): Promise<AsOf> {
  const { rows, pathOf } = await seenRows(by, projectId, at, folderId);
  return {
    at: new Date(at).toISOString(),
    files: rows
      .map((row) => ({
        fileId: row.file_id,
        name: row.name,
        path: pathOf(row.folder_id),
        then: thenOf(row),
        now: {
          id: row.now_id,
          number: row.now_number,
          by: row.now_by,
          at: row.now_at.toISOString(),
          note: row.now_note,
          format: row.now_format,
        },
        same: row.then_content === row.now_content,
        deleted: row.deleted,
        holder: row.holder,
        heldByOther: isHeldByOther(row, by),
      }))
      .sort((p, q) => p.path.localeCompare(q.path) || p.name.localeCompare(q.name)),
  };
}

const isHeldByOther = (row: ThenRow, by: Person): boolean => row.holder_id !== null && row.holder_id !== by.id;

const thenOf = (row: ThenRow): AsOf['files'][number]['then'] =>
  row.then_id === null
    ? null
    : {
        id: row.then_id,
        number: row.then_number ?? 0,
        by: row.then_by ?? '',
        at: row.then_at?.toISOString() ?? '',
        note: row.then_note ?? '',
        format: row.then_format,
      };

interface SeenRows {
  readonly rows: readonly ThenRow[];
  readonly pathOf: (folderId: string | null) => string;
}

/** Days on which something was made, in a folder with all below it, as far as the person may see the past. */
export async function daysOf(
  by: Person,
  projectId: string,
  folderId?: string,
): Promise<{ day: string; versions: number }[]> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const [rows, folders] = [await daysOfProject(db(), projectId), await foldersOf(by, projectId)];
  const parents = new Map(folders.map((folder) => [folder.id, folder.parentId]));
  const isWithin = (id: string | null): boolean =>
    id === folderId || (id !== null && isWithin(parents.get(id) ?? null));
  const seen = rows
    .filter((row) => scope.has(projectId, row.folder_id))
    .filter((row) => folderId === undefined || isWithin(row.folder_id));
  return [...Map.groupBy(seen, ({ day }) => day)].map(([day, of]) => ({
    day,
    versions: of.reduce((sum, { versions }) => sum + versions, 0),
  }));
}

/** As far as the person may see the past. */
export async function seenRows(
  by: Person,
  projectId: string,
  at: string,
  folderId: string | undefined,
): Promise<SeenRows> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const [rows, folders] = await Promise.all([filesThenAndNow(db(), projectId, at), foldersOf(by, projectId)]);
  const byId = new Map(folders.map((f) => [f.id, f]));
  const way = (id: string | null): Folder[] => {
    const found: Folder[] = [];
    for (let f = byId.get(id ?? ''); f; f = byId.get(f.parentId ?? '')) found.unshift(f);
    return found;
  };
  return {
    rows: rows
      .filter((row) => scope.has(projectId, row.folder_id))
      .filter((row) => folderId === undefined || way(row.folder_id).some((f) => f.id === folderId)),
    pathOf: (id) =>
      way(id)
        .map((f) => f.name)
        .join('/'),
  };
}

/** Brings each file forward to what it was: one set, all or none. What came later stays, unless it is to be deleted. */
export async function bringForwardTo(
  by: Person,
  projectId: string,
  { at, folder, files, deleteLater = false, note = '' }: z.input<typeof bringForwardToSchema>,
): Promise<z.infer<typeof broughtForwardSchema>> {
  await scopeIn(by, 'bring forward', projectId);
  const { rows } = await seenRows(by, projectId, at, folder);
  const wanted = rows.filter(
    (row) =>
      row.then_id !== null &&
      !row.deleted &&
      row.then_content !== row.now_content &&
      (!files || files.includes(row.file_id)),
  );
  const later = deleteLater ? rows.filter((row) => row.then_id === null && !row.deleted) : [];
  const held = [...wanted, ...later].filter((row) => isHeldByOther(row, by));
  if (held.length > 0) {
    const names = held.slice(0, FEW).map((row) => `${row.name} (${row.holder ?? ''})`);
    const more = held.length > FEW ? ` and ${held.length - FEW} more` : '';
    throw new Problem(
      409,
      'checked-out',
      `Checked out by others: ${names.join(', ')}${more}. Leave them out, or ask for them.`,
    );
  }
  if (wanted.length + later.length === 0)
    throw new Problem(409, 'nothing-to-do', 'All of it is as it was then already.');
  const set = await transaction((client) => bringIn(client, by, projectId, { wanted, later, at, note }));
  const n = wanted.length;
  const brought = `${n === 1 ? 'one file is' : `${n} files are`} as ${n === 1 ? 'it was' : 'they were'} then`;
  const gone = later.length === 1 ? 'one that came later is deleted' : `${later.length} that came later are deleted`;
  return {
    set,
    files: n,
    sentence:
      later.length === 0
        ? `Set ${set}: ${brought}. Nothing was removed.`
        : `Set ${set}: ${brought}, and ${gone}. They can be brought back.`,
  };
}

interface Bringing {
  readonly wanted: readonly ThenRow[];
  /** Files that came later, and go. */
  readonly later: readonly ThenRow[];
  readonly at: string;
  readonly note: string;
}

async function bringIn(
  client: Client,
  by: Person,
  projectId: string,
  { wanted, later, at, note }: Bringing,
): Promise<number> {
  const locked = new Map<string, Locked>();
  for (const { file_id: id } of [...wanted, ...later].toSorted((a, b) => (a.file_id < b.file_id ? -1 : 1)))
    locked.set(id, await lockFile(client, id));
  await lockProject(client, projectId);
  const folderOf = ({ file_id: id }: ThenRow): string | null => locked.get(id)?.file.folder_id ?? null;
  const folders = new Set(wanted.map(folderOf));
  for (const folderId of folders) await permit(by, 'bring forward', { projectId, folderId }, undefined, client);
  for (const folderId of new Set(later.map(folderOf)))
    await permit(by, 'check out', { projectId, folderId }, 'delete files', client);
  const said = `Brought forward to ${at.slice(0, 16).replace('T', ', ')}`;
  const why = note ? `${said}: ${note}` : `${said}.`;
  await refuseNoteless(client, projectId, folders, why);
  const set = await newSet(client, { projectId, kind: 'bring forward', note: why, by: by.id });
  const entries: Parameters<typeof record>[1][number][] = [];
  for (const row of wanted) {
    const { file, newest } = locked.get(row.file_id) as Locked;
    if (newest) await refuseHeldByOther(client, newest.line_id, by);
    const made = await appendVersion(client, newest, {
      fileId: row.file_id,
      contentId: row.then_content ?? '',
      uploadName: row.then_upload ?? row.name,
      sourceId: row.then_id ?? undefined,
      by: by.id,
      note: why,
      setId: set.id,
    });
    await tell(client, { kind: 'version', file: row.file_id, project: projectId });
    const subject = `${file.name} v${row.then_number ?? ''}, as v${(newest?.number ?? 0) + 1}, set ${set.number}`;
    entries.push({
      act: 'brought forward',
      by,
      subject,
      reason: note,
      projectId,
      fileId: row.file_id,
      versions: [made],
    });
  }
  for (const { file_id: fileId, name } of later) {
    await refuseAnyHeldByOther(client, fileId, by);
    await takeOut(client, { fileId, projectId, setId: set.id });
    entries.push({ act: 'deleted', by, subject: name, reason: why, projectId, fileId });
  }
  await record(client, entries);
  return set.number;
}
