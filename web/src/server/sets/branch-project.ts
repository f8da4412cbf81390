/** A project as it was at a moment, made into a new one: all of it in one transaction. */
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { branchedProjectSchema, branchProjectSchema } from '../../contract/as-of.ts';
import { transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { scopeIn } from '../people/access.ts';
import { require } from '../people/permissions.ts';
import { Problem } from '../problem.ts';
import { insertFile, insertFolder } from '../projects/rows.ts';
import { foldersOf, getProject, makeProjectIn } from '../projects/service.ts';
import { appendVersion } from '../versions/service.ts';
import { seenRows } from './as-of.ts';
import type { ThenRow } from './as-of-rows.ts';
import { newSet } from './sets.ts';

export async function branchProject(
  by: Person,
  projectId: string,
  { at, folder, name, reason }: z.output<typeof branchProjectSchema>,
): Promise<z.infer<typeof branchedProjectSchema>> {
  require(by, 'make projects');
  await scopeIn(by, 'see old versions', projectId);
  const [{ rows }, folders, source] = await Promise.all([
    seenRows(by, projectId, at, folder),
    foldersOf(by, projectId),
    getProject(by, projectId),
  ]);
  const then = rows.filter((row) => row.then_id !== null);
  if (then.length === 0) throw new Problem(409, 'nothing-to-do', 'Nothing was there then.');
  const parents = new Map(folders.map((f) => [f.id, f]));
  const note = reason || `As ${source.name} was on ${at.slice(0, 16).replace('T', ', ')}.`;
  const made = await transaction(async (client) => {
    const id = await makeProjectIn(client, by, name);
    const set = await newSet(client, { projectId: id, kind: 'check-in', note, by: by.id });
    const placeOf = folderMaker(client, by, id, parents);
    const entries: Parameters<typeof record>[1][number][] = [];
    for (const row of then)
      entries.push(await branched(client, by, row, { projectId: id, setId: set.id, note, placeOf }));
    await record(client, entries);
    return id;
  });
  const n = then.length;
  return {
    projectId: made,
    files: n,
    sentence: `“${name.trim()}” has ${n === 1 ? 'the file' : `the ${n} files`} as ${n === 1 ? 'it was' : 'they were'} then; each knows where it comes from.`,
  };
}

interface Place {
  readonly name: string;
  readonly parentId: string | null;
}

type PlaceOf = (folderId: string | null) => Promise<string | null>;

/** Gives the folder of the new project for one of the old, and makes it where it is not there yet. */
function folderMaker(client: Client, by: Person, projectId: string, parents: ReadonlyMap<string, Place>): PlaceOf {
  const made = new Map<string, string>();
  const placeOf: PlaceOf = async (folderId) => {
    const old = folderId === null ? undefined : parents.get(folderId);
    if (folderId === null || !old) return null;
    const known = made.get(folderId);
    if (known !== undefined) return known;
    const parent = await placeOf(old.parentId);
    const row = await insertFolder(client, projectId, parent, old.name, by.id);
    if (!row) throw new Error('a folder was not inserted');
    made.set(folderId, row.id);
    return row.id;
  };
  return placeOf;
}

interface Target {
  readonly projectId: string;
  readonly setId: string;
  readonly note: string;
  readonly placeOf: PlaceOf;
}

async function branched(
  client: Client,
  by: Person,
  row: ThenRow,
  { projectId, setId, note, placeOf }: Target,
): Promise<Parameters<typeof record>[1][number]> {
  const folderId = await placeOf(row.folder_id);
  const fileId = await insertFile(client, { projectId, folderId, name: row.name, by: by.id, at: undefined });
  const version = await appendVersion(client, undefined, {
    fileId,
    contentId: row.then_content ?? '',
    note,
    uploadName: row.then_upload ?? row.name,
    by: by.id,
    setId,
    sourceId: row.then_id ?? undefined,
    sourceRole: 'branched off from',
  });
  const subject = `v${row.then_number ?? ''}, as ${row.name}`;
  return { act: 'branched off', by, subject, reason: note, projectId, fileId, versions: [version] };
}
