/** Which files need which others: read from the files, or added by people; as it was when a version was saved, and as it is now. */
import { extensionOf, joined, pathOf, resolve } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { DeskFile, Need, References } from '../../contract/desk.ts';
import { db, many, one, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { permitFile, permitVersion, placeOfFile, rightsAt, scopeIn, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import type { Archive, ArchiveEntry } from '../projects/archive.ts';
import { STORE } from '../store/copy.ts';
import { referencesIn } from '../facts/references.ts';
import { versionRow } from '../versions/rows.ts';

interface FileAt {
  id: string;
  name: string;
  folder_id: string | null;
  path: string;
  deleted: boolean;
  holder: string | null;
  holder_id: string | null;
  newest: number;
  newest_id: string;
  content_id: string;
  hash: Buffer;
  size: string;
  format: string | null;
  made_at: Date;
}

/** Files with their paths in the project; `ids` for some, else all of the project. */
const filesAt = (projectId: string, ids?: readonly string[]): Promise<FileAt[]> =>
  many<FileAt>(
    db(),
    `
  with recursive trail as (
    select id, name as path from folder where project_id = $1 and parent_id is null
    union all
    select f.id, trail.path || '/' || f.name from folder f join trail on f.parent_id = trail.id
  )
  select f.id, f.name, f.folder_id, case when t.path is null then f.name else t.path || '/' || f.name end as path, f.deleted_in is not null as deleted, p.name as holder, p.id as holder_id,
    v.number as newest, v.id as newest_id, v.content_id, c.hash, c.size, c.format, v.made_at
  from file f left join trail t on t.id = f.folder_id
  cross join lateral (select id from line where file_id = f.id and position = 0 limit 1) l
  cross join lateral (select id, number, content_id, made_at from version where store_id = ${STORE} and line_id = l.id order by number desc limit 1) v
  join content c on c.store_id = ${STORE} and c.id = v.content_id
  left join checkout o on o.file_id = f.id left join person p on p.id = o.person_id
  where f.project_id = $1 and ($2::uuid[] is null or f.id = any($2)) order by path`,
    [projectId, ids ?? null],
  );

/** Every file of a project with its path, newest version and holder. */
export async function deskFiles(by: Person, projectId: string): Promise<DeskFile[]> {
  const scope = await scopeIn(by, 'see', projectId);
  return (await filesAt(projectId))
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
  const done = await one<{
    referenced: boolean;
    project_id: string;
    file_id: string;
    made_at: Date;
    set_id: string | null;
  }>(
    db(),
    `
    select v.referenced, f.project_id, f.id as file_id, v.made_at, v.set_id from version v join file f on f.id = v.file_id where v.store_id = $1 and v.id = $2`,
    [STORE, versionId],
  );
  if (!done || done.referenced) return;
  const row = await versionRow(versionId);
  const named = await referencesIn(row);
  // It took too long this time: the next look tries again.
  if (!named) return;
  const files = named.length ? await filesAt(done.project_id) : [];
  const self = files.find((f) => f.id === done.file_id);
  const resolved = resolve(
    named,
    self?.path ?? row.upload_name,
    files.filter((f) => !f.deleted && f.id !== done.file_id),
  );
  await transaction(async (client) => {
    const free = await one(
      client,
      'update version set referenced = true where store_id = $1 and id = $2 and not referenced returning 1',
      [STORE, versionId],
    );
    if (!free || !resolved.length) return;
    // The newest version of each at that moment; what came in the same set counts as there already.
    await client.query(
      `
      insert into version_reference (store_id, version_id, place, target, kind, found, to_file_id, to_version_id)
      select $1, $2, t.place, t.target, t.kind, t.found, t.file, (
        select v.id from version v join line l on l.id = v.line_id and l.position = 0
        where v.store_id = $1 and v.file_id = t.file and (v.made_at <= $8 or v.set_id = $9) order by v.number desc limit 1)
      from unnest($3::int[], $4::text[], $5::text[], $6::text[], $7::uuid[]) as t(place, target, kind, found, file)`,
      [
        STORE,
        versionId,
        resolved.map((_, i) => i),
        resolved.map((r) => r.reference.target),
        resolved.map((r) => r.reference.kind),
        resolved.map((r) => r.found),
        resolved.map((r) => r.file?.id ?? null),
        done.made_at,
        done.set_id,
      ],
    );
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

interface Recorded {
  target: string;
  kind: string;
  found: Need['found'];
  to_file_id: string | null;
  then_id: string | null;
  then_number: number | null;
  says: string;
}

const recorded = (versionId: string): Promise<Recorded[]> =>
  many<Recorded>(
    db(),
    `
  select r.target, r.kind, r.found, r.to_file_id, v.id as then_id, v.number as then_number, '' as says
  from version_reference r left join version v on v.store_id = r.store_id and v.id = r.to_version_id
  where r.store_id = $1 and r.version_id = $2 order by r.place`,
    [STORE, versionId],
  );

const byHand = (fileId: string, madeAt: Date): Promise<Recorded[]> =>
  many<Recorded>(
    db(),
    `
  select '' as target, 'drawing' as kind, 'by hand' as found, r.to_file_id, v.id as then_id, v.number as then_number, r.says
  from file_reference r left join lateral (
    select v.id, v.number from version v join line l on l.id = v.line_id and l.position = 0
    where v.store_id = $1 and v.file_id = r.to_file_id and v.made_at <= $3 order by v.number desc limit 1) v on true
  where r.file_id = $2 order by r.made_at`,
    [STORE, fileId, madeAt],
  );

/** What the file itself names, and at which version that was; without what is closed to the person. */
export async function needsOf(
  by: Person,
  versionId: string,
): Promise<{ target: string; kind: string; then: { id: string } | undefined }[]> {
  await recordReferences(versionId);
  const found = await recorded(versionId);
  const open = new Map<string, boolean>();
  for (const id of new Set(found.flatMap((r) => r.to_file_id ?? [])))
    open.set(id, (await rightsAt(by, await placeOfFile(id))).has('see'));
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
  const needs = [...(await recorded(versionId)), ...(await byHand(row.file_id, row.made_at))];
  const users = await many<{ file_id: string; target: string; says: string; by_hand: boolean }>(
    db(),
    `
    select distinct on (file_id) * from (
      select n.file_id, r.target, '' as says, false as by_hand from version_reference r
      join version n on n.store_id = r.store_id and n.id = r.version_id join line l on l.id = n.line_id and l.position = 0
      where r.to_file_id = $2 and n.store_id = $1 and not exists (select 1 from version later where later.store_id = $1 and later.line_id = n.line_id and later.number > n.number)
      union all
      select file_id, '', says, true from file_reference where to_file_id = $2
    ) u order by file_id, by_hand`,
    [STORE, row.file_id],
  );
  const files = new Map(
    (await filesAt(project, [...needs.flatMap((n) => n.to_file_id ?? []), ...users.map((u) => u.file_id)])).map((f) => [
      f.id,
      f,
    ]),
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
  const file = await one<{ project_id: string }>(db(), 'select project_id from file where id = $1', [fileId]);
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
    await client.query(
      'insert into file_reference (file_id, to_file_id, says, made_by) values ($1, $2, $3, $4) on conflict (file_id, to_file_id) do update set says = excluded.says',
      [fileId, to, says, by.id],
    );
    await recordChange(client, by, fileId, to, project, 'added');
  });
}

export async function removeReference(by: Person, fileId: string, to: string): Promise<void> {
  await permitFile(by, 'check out', fileId, 'change references');
  const project = await projectOf(fileId);
  await transaction(async (client) => {
    const gone = await one(client, 'delete from file_reference where file_id = $1 and to_file_id = $2 returning 1', [
      fileId,
      to,
    ]);
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
  const names = await one<{ a: string; b: string }>(
    client,
    'select a.name as a, b.name as b from file a, file b where a.id = $1 and b.id = $2',
    [fileId, to],
  );
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

/** A version with all that it needs, and what that needs in turn, laid out so that it opens from the folder it is unpacked to. */
export async function archiveWithReferences(by: Person, versionId: string, as: 'then' | 'now'): Promise<Archive> {
  const { projectId: project } = await permitVersion(by, versionId);
  const first = await versionRow(versionId);
  const [see, seeOld] = await Promise.all([scopeOf(by, 'see', project), scopeOf(by, 'see old versions', project)]);
  const files = new Map((await filesAt(project)).map((f) => [f.id, f]));
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
    for (const need of [...(await recorded(next.versionId)), ...(await byHand(row.file_id, row.made_at))]) {
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
