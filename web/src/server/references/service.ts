/**
 * Which files need which others: read from the files, or added by people; as it was when a version was saved, and as
 * it is now.
 */
import { extensionOf, joined, pathOf, resolve } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { DeskFile, References } from '../../contract/desk.ts';
import { db, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { filePlaces } from '../people/access-rows.ts';
import { permitFile, permitVersion, scopeIn, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import type { Archive, ArchiveEntry } from '../projects/archive.ts';
import { referencesIn } from '../facts/references.ts';
import { versionRow } from '../versions/rows.ts';
import {
  versionToRead,
  markReferenced,
  recorded,
  addedByHand,
  usersOf,
  projectOfFile,
  putReference,
  dropReference,
  bothNames,
  filesAt,
  insertReferences,
  type FileAt,
} from './rows.ts';

/** Every file of a project with its path, newest version and holder. */
export async function deskFiles(by: Person, projectId: string): Promise<DeskFile[]> {
  const scope = await scopeIn(by, 'see', projectId);
  return (await filesAt(db(), projectId))
    .filter((f) => !f.deleted && scope.has(projectId, f.folder_id))
    .map((f) => ({
      fileId: f.id,
      path: f.path,
      newest: { id: f.newest_id, number: f.newest, sha256: f.hash.toString('hex'), size: Number(f.size) },
      holder: f.holder_id === null ? null : { id: f.holder_id, name: f.holder ?? '' },
    }));
}

/** Finds out what a version needs and which versions those were at, once. */
export async function recordReferences(versionId: string): Promise<void> {
  const done = await versionToRead(db(), versionId);
  if (!done || done.referenced) return;
  const row = await versionRow(versionId);
  const named = await referencesIn(row);
  // It took too long this time: the next look tries again.
  if (!named) return;
  const files = named.length ? await filesAt(db(), done.project_id) : [];
  const self = files.find((f) => f.id === done.file_id);
  const resolved = resolve(
    named,
    self?.path ?? row.upload_name,
    files.filter((f) => !f.deleted && f.id !== done.file_id),
  );
  await transaction(async (client) => {
    const free = await markReferenced(client, versionId);
    if (!free || !resolved.length) return;
    await insertReferences(client, versionId, done, resolved);
  });
}

type Neighbour = References['neededBy'][number]['file'];
const neighbourOf = (f: FileAt): Neighbour => ({
  id: f.id,
  name: f.name,
  path: f.path,
  newest: f.newest,
  newestId: f.newest_id,
  deleted: f.deleted,
  holder: f.holder,
});

/** What the file itself names, and at which version that was; without what is closed to the person. */
export async function needsOf(
  by: Person,
  versionId: string,
): Promise<{ target: string; kind: string; then: { id: string } | undefined }[]> {
  await recordReferences(versionId);
  const found = await recorded(db(), versionId);
  const places = await filePlaces(db(), [...new Set(found.flatMap((r) => r.to_file_id ?? []))]);
  const scope = await scopeOf(by, 'see');
  const open = new Map(places.map((p) => [p.id, scope.has(p.project_id, p.folder_id)]));
  return found.map((r) => ({
    target: r.target,
    kind: r.kind,
    then: r.then_id === null || !open.get(r.to_file_id ?? '') ? undefined : { id: r.then_id },
  }));
}

/** What a version needs, and which files need its file now. */
export async function referencesOfVersion(by: Person, versionId: string): Promise<References> {
  const { projectId: project } = await permitVersion(by, versionId);
  await recordReferences(versionId);
  const row = await versionRow(versionId);
  const scope = await scopeOf(by, 'see', project);
  const needs = [...(await recorded(db(), versionId)), ...(await addedByHand(db(), row.file_id, row.made_at))];
  const users = await usersOf(db(), row.file_id);
  const files = new Map(
    (await filesAt(db(), project, [...needs.flatMap((n) => n.to_file_id ?? []), ...users.map((u) => u.file_id)])).map(
      (f) => [f.id, f],
    ),
  );
  return {
    needs: needs.map(({ target, kind, found, to_file_id, then_id, then_number, says }) => {
      const file = to_file_id === null ? undefined : files.get(to_file_id);
      if (file && !scope.has(project, file.folder_id))
        return { target, kind, found: 'closed', says, file: null, then: null };
      return {
        target,
        kind,
        found,
        says,
        file: file ? neighbourOf(file) : null,
        then: then_id !== null && then_number !== null ? { id: then_id, number: then_number } : null,
      };
    }),
    neededBy: users.flatMap(({ file_id, target, says, by_hand: byHandToo }) => {
      const file = files.get(file_id);
      return file && !file.deleted && scope.has(project, file.folder_id)
        ? [{ file: neighbourOf(file), target, says, byHand: byHandToo }]
        : [];
    }),
  };
}

async function projectOf(fileId: string): Promise<string> {
  const file = await projectOfFile(db(), fileId);
  if (!file) throw notFound('file');
  return file.project_id;
}

/** Says that a file belongs to another one, which no program wrote into it. */
export async function addReference(by: Person, fileId: string, to: string, says = ''): Promise<void> {
  await permitFile(by, 'check out', fileId, 'change references');
  await permitFile(by, 'see', to);
  if (fileId === to) throw new Problem(400, 'bad-input', 'A file does not need itself.');
  const [project, other] = [await projectOf(fileId), await projectOf(to)];
  if (project !== other) throw new Problem(400, 'bad-input', 'Both files must be in the same project.');
  await transaction(async (client) => {
    await putReference(client, fileId, to, says, by.id);
    await recordChange(client, by, fileId, to, project, 'added');
  });
}

export async function removeReference(by: Person, fileId: string, to: string): Promise<void> {
  await permitFile(by, 'check out', fileId, 'change references');
  const project = await projectOf(fileId);
  await transaction(async (client) => {
    const gone = await dropReference(client, fileId, to);
    if (!gone) throw notFound('reference added by hand');
    await recordChange(client, by, fileId, to, project, 'removed');
  });
}

async function recordChange(
  client: Parameters<typeof record>[0],
  by: Person,
  fileId: string,
  to: string,
  projectId: string,
  what: string,
): Promise<void> {
  const names = await bothNames(client, fileId, to);
  await record(client, [
    {
      act: 'changed a file',
      by,
      subject: `${names?.a ?? ''}: reference to ${names?.b ?? ''} ${what}`,
      projectId,
      fileId,
    },
  ]);
}

/**
 * A version with all that it needs, and what that needs in turn, laid out so that it opens from the folder it is
 * unpacked to.
 */
export async function archiveWithReferences(by: Person, versionId: string, as: 'then' | 'now'): Promise<Archive> {
  const { projectId: project } = await permitVersion(by, versionId);
  const first = await versionRow(versionId);
  const [see, seeOld] = await Promise.all([scopeOf(by, 'see', project), scopeOf(by, 'see old versions', project)]);
  const files = new Map((await filesAt(db(), project)).map((f) => [f.id, f]));
  const entries = new Map<string, ArchiveEntry>();
  const seen = new Set<string>();
  const main = files.get(first.file_id);
  if (!main) throw notFound('file');
  const queue: { versionId: string; path: string }[] = [{ versionId, path: main.path }];
  for (let next = queue.shift(); next; next = queue.shift()) {
    // A file may be needed under two paths; a circle ends where it began.
    const key = `${next.versionId} ${next.path}`;
    if (seen.has(key) || seen.size > 5000) continue;
    seen.add(key);
    const row = await versionRow(next.versionId);
    const at = next.path;
    if (!entries.has(at))
      entries.set(at, {
        path: at,
        contentId: row.content_id,
        size: Number(row.size),
        format: row.format,
        madeAt: row.made_at,
      });
    await recordReferences(next.versionId);
    const folder = at.includes('/') ? at.slice(0, at.lastIndexOf('/')) : '';
    for (const need of [
      ...(await recorded(db(), next.versionId)),
      ...(await addedByHand(db(), row.file_id, row.made_at)),
    ]) {
      const file = need.to_file_id === null ? undefined : files.get(need.to_file_id);
      const wanted =
        file &&
        (as === 'now' || !seeOld.has(project, file.folder_id) ? file.newest_id : (need.then_id ?? file.newest_id));
      if (!file || !wanted || !see.has(project, file.folder_id)) continue;
      // What was found by its name alone goes where the file looks for it, or beside it.
      const written = pathOf(need.target);
      const where =
        need.found === 'name' && written !== undefined
          ? (joined(folder, written) ?? joined(folder, file.name))
          : undefined;
      queue.push({ versionId: wanted, path: where ?? file.path });
    }
  }
  const ending = extensionOf(main.name) ? main.name.slice(0, main.name.lastIndexOf('.')) : main.name;
  return {
    fileName: `${ending} v${first.number} with references${as === 'now' ? ' as they are now' : ''}.zip`,
    entries: [...entries.values()],
  };
}
