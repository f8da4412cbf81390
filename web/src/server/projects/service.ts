import { refuseAnyHeldByOther } from '../checkouts/service.ts';
import { db, transaction, type Client, type Db } from '../db/pool.ts';
import type { Contents, FileEntry, Folder, FoundFiles, Person, Project } from '../../contract/api.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permit, rightsAt, scopeIn, scopeOf, type Place } from '../people/access.ts';
import { require } from '../people/permissions.ts';
import { onceAPage } from '../once-a-page.ts';
import { notFound, Problem } from '../problem.ts';
import { holds, noteRule, said, savesRule } from './rules.ts';
import { lockedFile, type FileState } from '../versions/rows.ts';
import { countMoved, fileRow, fileRows, folderPath, lockProject, moveFile } from './rows.ts';
import {
  projectRows,
  countSeen,
  filesCalled,
  projectRow,
  insertProject,
  putLead,
  nameProject,
  foldersWithin,
  filesWithin,
  folderRows,
  folderOfProject,
  insertFolder,
  folderRow,
  changeFolderRow,
  fileRowOf,
  type ProjectRow,
  type FolderRow,
} from './rows.ts';

const projectOf = (r: ProjectRow): Project => ({
  id: r.id,
  name: r.name,
  createdAt: r.created_at.toISOString(),
  createdBy: { id: r.maker_id, name: r.maker_name },
  files: r.files,
  changedAt: r.changed_at?.toISOString() ?? null,
  sittingPause: r.sitting_pause,
});

const folderOf = (r: FolderRow): Folder => ({ id: r.id, projectId: r.project_id, parentId: r.parent_id, name: r.name });

/** Turns a broken unique index into a sentence. */
export function nameTaken(what: string, name: string): (error: Error & { code?: string }) => never {
  return (error) => {
    if (error.code === '23505')
      throw new Problem(
        409,
        'name-taken',
        `There is already a ${what} called “${name}” here (capitals do not count). Choose another name.`,
      );
    throw error;
  };
}

export async function listProjects(by: Person): Promise<Project[]> {
  const scope = await scopeOf(by, 'see');
  const rows = (await projectRows(db())).filter((r) => scope.any(r.id));
  const partly = rows.flatMap((r) => (scope.partly(r.id) ? [r.id] : []));
  if (!partly.length) return rows.map(projectOf);
  const counts = await countSeen(db(), partly, scope);
  return rows.map((r) => ({
    ...projectOf(r),
    ...(scope.partly(r.id) ? { files: counts.find((c) => c.id === r.id)?.n ?? 0 } : {}),
  }));
}

export async function getProject(by: Person, id: string): Promise<Project> {
  await scopeIn(by, 'see', id);
  const row = await projectRow(db(), id);
  if (!row) throw notFound('project');
  return projectOf(row);
}

export async function makeProject(by: Person, given: string): Promise<Project> {
  return getProject(by, await transaction((client) => makeProjectIn(client, by, given)));
}

/** The same in a transaction that is under way; gives its id. */
export async function makeProjectIn(client: Client, by: Person, given: string): Promise<string> {
  require(by, 'make projects');
  const name = checkName(given, 'project');
  const row = await insertProject(client, name, by.id).catch(nameTaken('project', name));
  if (!row) throw new Error('a project was not inserted');
  // Whoever makes a project keeps it, whatever is said of everybody else later.
  if (by.role !== 'administrator') await putLead(client, row.id, by.id);
  await record(client, [{ act: 'made a project', by, subject: name, projectId: row.id }]);
  return row.id;
}

export async function renameProject(by: Person, id: string, given: string): Promise<Project> {
  await permit(by, 'manage', { projectId: id, folderId: null }, 'rename the project');
  const name = checkName(given, 'project');
  const before = await getProject(by, id);
  await transaction(async (client) => {
    await nameProject(client, id, name).catch(nameTaken('project', name));
    await record(client, [{ act: 'renamed a project', by, subject: `${before.name}, now ${name}`, projectId: id }]);
  });
  return getProject(by, id);
}

export async function contentsOf(by: Person, projectId: string, folderId: string | null): Promise<Contents> {
  const [project, scope, past] = await Promise.all([
    getProject(by, projectId),
    scopeOf(by, 'see', projectId),
    scopeOf(by, 'see old versions', projectId),
  ]);
  const folder = folderId ? await folderIn(db(), folderId, projectId) : null;
  const tree = scope.partly(projectId) ? await foldersOf(by, projectId) : undefined;
  // A folder that is closed itself is shown as the way to what is open below it.
  if (folder && !scope.has(projectId, folder.id) && !tree?.some((f) => f.id === folder.id))
    await permit(by, 'see', { projectId, folderId });
  const open = (id: string): boolean => !tree || tree.some((f) => f.id === id);
  const where = folderId ? ({ what: 'folder', id: folderId } as const) : ({ what: 'project', id: projectId } as const);
  const [rule, saves, required, path, folders, files] = await Promise.all([
    said(db(), noteRule, where),
    said(db(), savesRule, where),
    holds(db(), noteRule, { projectId, folderId }),
    folderPath(db(), folderId),
    foldersWithin(db(), projectId, folderId),
    filesWithin(db(), projectId, folderId),
  ]);
  return {
    noteRule: rule,
    savesRule: saves,
    noteRequired: required,
    project,
    path,
    folder,
    folders: folders
      .filter((r) => open(r.id))
      .map((r) => ({ ...folderOf(r), files: scope.has(projectId, r.id) ? r.files : 0 })),
    files: scope.has(projectId, folderId) ? files.map((r) => fileRow(r, past.has(projectId, folderId))) : [],
  };
}

/** Every folder of a project that the person may see or that leads to one, for choosing where something goes. */
export async function foldersOf(by: Person, projectId: string): Promise<Folder[]> {
  const scope = await scopeIn(by, 'see', projectId);
  const folders = (await folderRows(db(), projectId)).map(folderOf);
  if (!scope.partly(projectId)) return folders;
  const byId = new Map(folders.map((f) => [f.id, f]));
  const kept = new Set<string>();
  for (const f of folders) {
    if (!scope.has(projectId, f.id)) continue;
    for (
      let at: Folder | undefined = f;
      at && !kept.has(at.id);
      at = at.parentId === null ? undefined : byId.get(at.parentId)
    )
      kept.add(at.id);
  }
  return folders.filter((f) => kept.has(f.id));
}

export async function folderIn(client: Db, id: string, projectId: string): Promise<Folder> {
  const row = await folderOfProject(client, id, projectId);
  if (!row) throw notFound('folder');
  return folderOf(row);
}

export async function makeFolder(
  by: Person,
  projectId: string,
  parentId: string | null,
  given: string,
): Promise<Folder> {
  await permit(by, 'check out', { projectId, folderId: parentId }, 'make folders');
  const name = checkName(given, 'folder');
  if (parentId) await folderIn(db(), parentId, projectId);
  return transaction(async (client) => {
    const row = await insertFolder(client, projectId, parentId, name, by.id).catch(nameTaken('folder', name));
    if (!row) throw new Error('a folder was not inserted');
    await record(client, [{ act: 'made a folder', by, subject: name, projectId }]);
    return folderOf(row);
  });
}

const ORGANISE = 'rename or move files and folders';

/** Renames and moves a folder within its project. */
export async function changeFolder(
  by: Person,
  id: string,
  change: { name?: string | undefined; parentId?: string | null | undefined },
): Promise<Folder> {
  const place = await folderRow(db(), id);
  if (!place) throw notFound('folder');
  await permit(by, 'check out', { projectId: place.project_id, folderId: id }, ORGANISE);
  if (change.parentId !== undefined)
    await permit(by, 'check out', { projectId: place.project_id, folderId: change.parentId }, ORGANISE);
  return transaction(async (client) => {
    // One move at a time in a project, so that two moves cannot make a circle; the folder is read after that.
    await lockProject(client, place.project_id);
    const row = await folderRow(client, id);
    if (!row) throw notFound('folder');
    const name = change.name === undefined ? row.name : checkName(change.name, 'folder');
    const parent = change.parentId === undefined ? row.parent_id : change.parentId;
    if (parent) {
      await folderIn(client, parent, row.project_id);
      if ((await folderPath(client, parent)).some((f) => f.id === id))
        throw new Problem(400, 'circle', `“${row.name}” can't be moved into itself or a folder inside it.`);
    }
    await changeFolderRow(client, id, name, parent).catch(nameTaken('folder', name));
    await record(client, [
      {
        act: 'changed a folder',
        by,
        subject: name === row.name ? `${name}, moved` : `${row.name}, now ${name}`,
        projectId: row.project_id,
      },
    ]);
    return { ...folderOf(row), name, parentId: parent };
  });
}

export const getFile = (by: Person, id: string): Promise<FileEntry> =>
  onceAPage(`file ${id} ${by.id}`, () => lookUpFile(by, id));

async function lookUpFile(by: Person, id: string): Promise<FileEntry> {
  const row = await fileRowOf(db(), id);
  if (!row) throw notFound('file');
  const place = { projectId: row.project_id, folderId: row.folder_id };
  await permit(by, row.deleted_in ? 'see old versions' : 'see', place);
  const seesPast = (await rightsAt(by, place)).has('see old versions');
  return { ...fileRow(row, seesPast), projectName: row.project_name, path: await folderPath(db(), row.folder_id) };
}

/** Files by their ids, in any order. Throws a Problem where one is not there, or is closed to the person. */
export async function getFiles(by: Person, ids: readonly string[]): Promise<FileEntry[]> {
  const rows = ids.length === 0 ? [] : await fileRows(db(), ids);
  if (rows.length < new Set(ids).size) throw notFound('file');
  const folders = Map.groupBy(rows, (r) => `${r.project_id} ${r.folder_id ?? ''}`);
  const files: FileEntry[] = [];
  for (const [first, ...others] of folders.values()) {
    if (!first) continue;
    const here = [first, ...others];
    const place = { projectId: first.project_id, folderId: first.folder_id };
    await permit(by, 'see', place);
    if (here.some((r) => r.deleted_in)) await permit(by, 'see old versions', place);
    const seesPast = (await rightsAt(by, place)).has('see old versions');
    const path = await folderPath(db(), first.folder_id);
    files.push(...here.map((r) => ({ ...fileRow(r, seesPast), projectName: r.project_name, path })));
  }
  return files;
}

interface FileChange {
  readonly name?: string | undefined;
  readonly folderId?: string | null | undefined;
  readonly projectId?: string | undefined;
}

/** What a file is called and where it lies after a change of what it was. */
function changedFile(before: FileState, change: FileChange): { name: string; place: Place } {
  const name = change.name === undefined ? before.name : checkName(change.name, 'file');
  const projectId = change.projectId ?? before.project_id;
  const stays = projectId === before.project_id ? before.folder_id : null;
  return { name, place: { projectId, folderId: change.folderId === undefined ? stays : change.folderId } };
}

/** Renames and moves a file; its versions and its address stay. */
export async function changeFile(by: Person, id: string, change: FileChange): Promise<FileEntry> {
  await getFile(by, id);
  await transaction(async (client) => {
    const before = await lockedFile(client, id);
    if (!before) throw notFound('file');
    const from = { projectId: before.project_id, folderId: before.folder_id };
    const { name, place } = changedFile(before, change);
    await permit(by, 'check out', from, ORGANISE, client);
    if (place.projectId !== from.projectId || place.folderId !== from.folderId)
      await permit(by, 'check out', place, ORGANISE, client);
    await refuseAnyHeldByOther(client, id, by);
    await moveFile(client, id, name, place).catch(nameTaken('file', name));
    // What is deleted counts nowhere.
    if (place.projectId !== from.projectId && before.deleted_in === null)
      await countMoved(client, id, from.projectId, place.projectId);
    await tell(client, { kind: 'files', file: id, project: place.projectId });
    const subject = name === before.name ? `${name}, moved` : `${before.name}, now ${name}`;
    await record(client, [{ act: 'changed a file', by, subject, projectId: place.projectId, fileId: id }]);
  });
  return getFile(by, id);
}

/** Files whose name contains the words, newest first. */
export async function findFiles(by: Person, words: string): Promise<FoundFiles> {
  const rows = await filesCalled(db(), words, await scopeOf(by, 'see'));
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    project: r.project,
    number: r.number,
    at: r.made_at.toISOString(),
  }));
}
