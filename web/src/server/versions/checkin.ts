/**
 * Check-in: bytes arrive, and their versions exist completely or not at all, one file or many.
 * What can be refused early is refused early; what counts is looked at once more when all has arrived, under the lock.
 */
import { z } from 'zod';
import type { CheckInResult, FileEntry, Person } from '../../contract/api.ts';
import type { Planned, SetResult } from '../../contract/desk.ts';
import { release, sourceOf } from '../checkouts/service.ts';
import { db, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permit } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { insertFile, lockProject } from '../projects/rows.ts';
import { folderIn, getFile, getFiles, nameTaken } from '../projects/service.ts';
import type { MadeSet } from '../sets/rows.ts';
import { madeSet, newSet } from '../sets/sets.ts';
import { closeSaves } from '../saving/rows.ts';
import { receive, storeArrived, type Arrived, type Incoming } from './arrival.ts';
import { discardFile, discardFiles, landing, once, type Attempt } from './attempt.ts';
import { checkNote, refuseConflict, refuseNoteless, refuseOtherFormat, refuseTaken } from './refusals.ts';
import { settleTakenOver, versionOf, versionRow } from './rows.ts';
import { newestOfOpen } from '../lines/open.ts';
import { appendVersion, branchFrom, lockFile, newestOf, type Locked, type Newest, type NewVersion } from './service.ts';

export type { Incoming };

export interface CheckIn {
  readonly note: string;
  /** The newest version that the sender has seen; with it, a version that landed meanwhile is not overlooked. */
  readonly base?: string | undefined;
  readonly allowOtherFormat?: boolean;
  /** The holder keeps the right to change the file. */
  readonly keep?: boolean;
  /** The version starts a branch from `base`, beside what others do on the main line. */
  readonly branch?: boolean;
  /** Another line than the main line. */
  readonly line?: string | undefined;
  readonly kind?: NewVersion['kind'];
  readonly at?: Date;
  readonly title?: string;
  /** Of this check-in alone, by its sender: sent again with it, it gets its first answer. */
  readonly key?: string | undefined;
}

const CHECK_IN = 'check in versions';

const landedSchema = z.object({ made: z.boolean(), id: z.string(), hints: z.array(z.string()) });
type Landed = z.infer<typeof landedSchema>;

/** Adds a version to a file. */
export async function checkIn(
  by: Person,
  fileId: string,
  incoming: Incoming,
  options: CheckIn,
): Promise<CheckInResult> {
  checkNote(options.note);
  const file = await getFile(by, fileId);
  await permit(by, 'check out', file, CHECK_IN);
  const attempt: Attempt<Landed> = { by, key: options.key, what: `check in ${fileId}`, outcome: landedSchema };
  const landed = await once(
    attempt,
    () => receiveVersion(attempt, file, incoming, options),
    () => discardFile(incoming),
  );
  const version = versionOf(await versionRow(landed.id));
  return {
    made: landed.made,
    version,
    hints: landed.hints,
    sentence: sayLanded(landed.made, options.branch === true, version),
  };
}

async function receiveVersion(
  attempt: Attempt<Landed>,
  file: FileEntry,
  incoming: Incoming,
  options: CheckIn,
): Promise<Landed> {
  const { by } = attempt;
  await refuseNoteless(db(), file.projectId, [file.folderId], options.note);
  if (!options.branch)
    await refuseConflict(db(), file.id, by, await newestOf(db(), file.id, options.line), options.base);
  const arrived = await receive(incoming, (format) => {
    if (!options.allowOtherFormat) refuseOtherFormat(file, format);
  });
  return landing(attempt, [arrived], async (client) => ({
    ...(await land(client, by, file, arrived, options)),
    hints: hintsOf(arrived, file.name),
  }));
}

function sayLanded(made: boolean, branch: boolean, version: { number: number; line: string }): string {
  if (!made) return `The content is the same as the newest version, v${version.number}, so no version was made.`;
  if (branch) return `Checked in as v${version.number} of a new branch, “${version.line}”.`;
  return `Checked in as v${version.number}.`;
}

/** Locks a file where it lies now, and its project; whoever checks in must be allowed to there, and now. */
async function lockWhereItIs(client: Client, by: Person, fileId: string, note: string): Promise<Locked> {
  const locked = await lockFile(client, fileId);
  const { project_id: projectId, folder_id: folderId } = locked.file;
  await lockProject(client, projectId);
  await permit(by, 'check out', { projectId, folderId }, CHECK_IN, client);
  await refuseNoteless(client, projectId, [folderId], note);
  return locked;
}

async function land(
  client: Client,
  by: Person,
  { id: fileId }: FileEntry,
  arrived: Arrived,
  options: CheckIn,
): Promise<{ made: boolean; id: string }> {
  const content = await storeArrived(client, arrived);
  const { file, newest: newestOfMain } = await lockWhereItIs(client, by, fileId, options.note);
  const newest = options.line === undefined ? newestOfMain : await newestOfOpen(client, fileId, options.line);
  const { kind, at, title } = options;
  const note = options.note.trim();
  const place = { fileId, projectId: file.project_id };
  const version = { fileId, contentId: content.id, note, uploadName: arrived.uploadName, by: by.id, kind, at, title };
  const newSetHere = (): Promise<MadeSet> =>
    newSet(client, { projectId: place.projectId, kind: 'check-in', note, by: by.id, at });
  if (options.branch) {
    if (!options.base) throw new Problem(400, 'bad-input', 'Say which version the branch starts from.');
    const branch = await branchFrom(client, options.base, { ...version, setId: (await newSetHere()).id }, by);
    await settleTakenOver(client, fileId, by.id);
    await tell(client, { kind: 'version', file: fileId, project: place.projectId });
    const subject = `${file.name} v${branch.number}, ${branch.line}`;
    await record(client, [{ ...place, act: 'branched off', by, subject, reason: note, at, versions: [branch.id] }]);
    return { made: true, id: branch.id };
  }
  await refuseConflict(client, fileId, by, newest, options.base);
  if (newest?.content_id === content.id) return { made: false, id: newest.id };
  const setId = (await newSetHere()).id;
  const id = await appendVersion(client, newest, {
    ...version,
    setId,
    ...(await goneOnFrom(client, fileId, newest, by)),
  });
  if (newest) await release(client, newest.line_id, by.id, options.keep);
  await tell(client, { kind: 'version', file: fileId, project: place.projectId });
  const subject = `${file.name} v${(newest?.number ?? 0) + 1}`;
  await record(client, [{ ...place, act: 'checked in', by, subject, reason: note, at, versions: [id] }]);
  return { made: true, id };
}

/** What a check-in has beside what it follows: an older version that its holder went on from, or their saves. */
async function goneOnFrom(
  client: Client,
  fileId: string,
  newest: Newest | undefined,
  by: Person,
): Promise<Pick<NewVersion, 'sourceId' | 'sourceRole'>> {
  if (!newest) return {};
  const [saved] = newest.position === 0 ? await closeSaves(client, [fileId], by.id) : [];
  const sourceId = await sourceOf(client, newest.line_id, by.id);
  if (sourceId !== undefined) return { sourceId };
  return saved ? { sourceId: saved.id, sourceRole: 'joined from' } : {};
}

/** What the sender should know of names: one that could not be kept, and one that is not that of the file. */
function hintsOf({ uploadName, hint }: Arrived, name: string): string[] {
  const other = uploadName.toLowerCase() !== name.toLowerCase();
  return [
    ...(hint ? [hint] : []),
    ...(other ? [`The file you chose is called “${uploadName}”. It was checked in as a version of “${name}”.`] : []),
  ];
}

const madeFileSchema = z.object({ fileId: z.string(), hints: z.array(z.string()) });
type MadeFile = z.infer<typeof madeFileSchema>;

interface Place {
  readonly projectId: string;
  readonly folderId: string | null;
}

/** Makes a file with its first version. */
export async function makeFile(
  by: Person,
  projectId: string,
  folderId: string | null,
  name: string | undefined,
  incoming: Incoming,
  options: CheckIn,
): Promise<{ file: FileEntry; hints: string[] }> {
  checkNote(options.note);
  const place = { projectId, folderId };
  await permit(by, 'check out', place, CHECK_IN);
  const what = `make a file in ${folderId ?? projectId}`;
  const attempt: Attempt<MadeFile> = { by, key: options.key, what, outcome: madeFileSchema };
  const { fileId, hints } = await once(
    attempt,
    () => receiveFile(attempt, place, name, incoming, options),
    () => discardFile(incoming),
  );
  return { file: await getFile(by, fileId), hints };
}

async function receiveFile(
  attempt: Attempt<MadeFile>,
  place: Place,
  name: string | undefined,
  incoming: Incoming,
  options: CheckIn,
): Promise<MadeFile> {
  const { by } = attempt;
  const { projectId, folderId } = place;
  await refuseNoteless(db(), projectId, [folderId], options.note);
  const given = name === undefined ? undefined : checkName(name, 'file');
  if (given !== undefined) await refuseTaken(db(), projectId, folderId, given);
  const arrived = await receive(incoming, () => undefined);
  const fileName = given ?? arrived.uploadName;
  const note = options.note.trim();
  const { at, title, kind } = options;
  return landing(attempt, [arrived], async (client) => {
    const content = await storeArrived(client, arrived);
    await lockProject(client, projectId);
    await permit(by, 'check out', place, CHECK_IN, client);
    if (folderId) await folderIn(client, folderId, projectId);
    await refuseTaken(client, projectId, folderId, fileName);
    const fileId = await insertFile(client, { projectId, folderId, name: fileName, by: by.id, at }).catch(
      nameTaken('file', fileName),
    );
    const set = await newSet(client, { projectId, kind: 'check-in', note, by: by.id, at });
    const version = { fileId, contentId: content.id, note, uploadName: arrived.uploadName, by: by.id };
    const id = await appendVersion(client, undefined, { ...version, setId: set.id, at, title, kind });
    await tell(client, { kind: 'version', file: fileId, project: projectId });
    const subject = `${fileName} v1`;
    await record(client, [{ act: 'checked in', by, subject, reason: note, projectId, fileId, at, versions: [id] }]);
    return { fileId, hints: arrived.hint ? [arrived.hint] : [] };
  });
}

const foreignFile = (name: string): Problem =>
  new Problem(400, 'bad-input', `“${name}” belongs to another project; a set is of one.`);

/** A file of a set, all of whose bytes are here. */
interface Member {
  readonly planned: Planned;
  readonly name: string;
  readonly arrived: Arrived;
}

const landedSetSchema = z.object({
  setId: z.string().nullable(),
  same: z.array(z.string()),
  hints: z.array(z.string()),
});
type LandedSet = z.infer<typeof landedSetSchema>;

/** Checks in several files under one note: all of them land, or none. `files` come in the order of the plan. */
export async function checkInSet(
  by: Person,
  projectId: string,
  plan: readonly Planned[],
  files: AsyncIterable<Incoming>,
  { note, key }: Pick<CheckIn, 'note' | 'key'>,
): Promise<SetResult> {
  checkNote(note);
  const what = `check in a set in ${projectId}`;
  const attempt: Attempt<LandedSet> = { by, key, what, outcome: landedSetSchema };
  const { setId, same, hints } = await once(
    attempt,
    () => receiveSet(attempt, projectId, plan, files, note),
    () => discardFiles(files),
  );
  const set = setId === null ? null : await madeSet(by, setId);
  return { set, same, hints, sentence: saySet(set) };
}

async function receiveSet(
  attempt: Attempt<LandedSet>,
  projectId: string,
  plan: readonly Planned[],
  files: AsyncIterable<Incoming>,
  note: string,
): Promise<LandedSet> {
  const { by } = attempt;
  const existing = await filesOfPlan(by, projectId, plan);
  const folders = new Set(plan.map((p) => (p.fileId ? existing.get(p.fileId)?.folderId : p.folderId) ?? null));
  await refuseNoteless(db(), projectId, folders, note);
  for (const folderId of folders) await permit(by, 'check out', { projectId, folderId }, CHECK_IN);
  const members = await receiveMembers(by, projectId, plan, existing, files);
  const hints = members.flatMap(({ planned, name, arrived }) =>
    hintsOf(arrived, planned.fileId ? name : arrived.uploadName),
  );
  const arrived = members.map((m) => m.arrived);
  return landing(attempt, arrived, async (client) => ({
    ...(await landSet(client, by, projectId, members, note)),
    hints,
  }));
}

/** Receives the files of a set; what has come of a set that breaks off is not kept. */
async function receiveMembers(
  by: Person,
  projectId: string,
  plan: readonly Planned[],
  existing: ReadonlyMap<string, FileEntry>,
  files: AsyncIterable<Incoming>,
): Promise<readonly Member[]> {
  const members: Member[] = [];
  try {
    for await (const incoming of files) {
      const planned = plan[members.length];
      if (!planned) throw new Problem(400, 'bad-input', 'More files came than were announced.');
      members.push(await receiveMember(by, projectId, planned, existing, incoming));
    }
    if (members.length < plan.length)
      throw new Problem(
        400,
        'cut-off',
        `Only ${members.length} of ${plan.length} files came. Nothing was stored; send the set again.`,
      );
    return members;
  } catch (error) {
    for (const { arrived } of members) await arrived.spool.end();
    throw error;
  }
}

function saySet(set: SetResult['set']): string {
  if (!set) return 'All of it is the same as the newest versions, so nothing was made.';
  const n = set.files.length;
  return `Set ${set.number} was checked in: ${n} ${n === 1 ? 'file' : 'files'}.`;
}

/** The files of the plan that are there already, by their ids. */
async function filesOfPlan(
  by: Person,
  projectId: string,
  plan: readonly Planned[],
): Promise<ReadonlyMap<string, FileEntry>> {
  const ids = plan.flatMap((p) => p.fileId ?? []);
  if (new Set(ids).size < ids.length) throw new Problem(400, 'bad-input', 'The same file is in the set twice.');
  const files = await getFiles(by, ids);
  const foreign = files.find((f) => f.projectId !== projectId);
  if (foreign) throw foreignFile(foreign.name);
  return new Map(files.map((f) => [f.id, f]));
}

async function receiveMember(
  by: Person,
  projectId: string,
  planned: Planned,
  existing: ReadonlyMap<string, FileEntry>,
  incoming: Incoming,
): Promise<Member> {
  const file = planned.fileId ? existing.get(planned.fileId) : undefined;
  if (file) {
    await refuseConflict(db(), file.id, by, await newestOf(db(), file.id), planned.base);
    const arrived = await receive(incoming, (format) => {
      if (!planned.allowOtherFormat) refuseOtherFormat(file, format);
    });
    return { planned, name: file.name, arrived };
  }
  const { folderId = null } = planned;
  const given = planned.name === undefined ? undefined : checkName(planned.name, 'file');
  if (folderId) await folderIn(db(), folderId, projectId);
  if (given !== undefined) await refuseTaken(db(), projectId, folderId, given);
  const arrived = await receive(incoming, () => undefined);
  return { planned, name: given ?? arrived.uploadName, arrived };
}

async function landSet(
  client: Client,
  by: Person,
  projectId: string,
  members: readonly Member[],
  note: string,
): Promise<{ setId: string | null; same: string[] }> {
  const contents = new Map<Member, string>();
  for (const member of members) contents.set(member, (await storeArrived(client, member.arrived)).id);
  const locked = await lockMembers(client, by, projectId, members, note);
  const isSame = ({ planned: { fileId } }: Member, contentId: string | undefined): boolean =>
    fileId !== undefined && locked.get(fileId)?.newest?.content_id === contentId;
  const changed = members.filter((m) => !isSame(m, contents.get(m)));
  const same = members.filter((m) => isSame(m, contents.get(m))).map((m) => m.name);
  const kept = members.flatMap(({ planned: { fileId, keep } }) => {
    const lineId = fileId === undefined ? undefined : locked.get(fileId)?.newest?.line_id;
    return lineId === undefined ? [] : [{ lineId, keep }];
  });
  if (changed.length === 0) {
    for (const { lineId, keep } of kept) await release(client, lineId, by.id, keep);
    return { setId: null, same };
  }
  const set = await newSet(client, { projectId, kind: 'check-in', note: note.trim(), by: by.id });
  const made = { projectId, by, note: note.trim(), set };
  const entries = [];
  for (const member of changed) {
    const before = member.planned.fileId === undefined ? undefined : locked.get(member.planned.fileId);
    entries.push(await landMember(client, made, member, contents.get(member) ?? '', before));
  }
  for (const { lineId, keep } of kept) await release(client, lineId, by.id, keep);
  await record(client, entries);
  return { setId: set.id, same };
}

/** Locks the files of a set in the order of their ids, so that two sets cannot wait for one another. */
async function lockMembers(
  client: Client,
  by: Person,
  projectId: string,
  members: readonly Member[],
  note: string,
): Promise<ReadonlyMap<string, Locked>> {
  const locked = new Map<string, Locked>();
  const there = members.flatMap(({ planned: { fileId, base } }) => (fileId ? [{ fileId, base }] : []));
  for (const { fileId } of there.toSorted((a, b) => (a.fileId < b.fileId ? -1 : 1))) {
    const now = await lockFile(client, fileId);
    if (now.file.project_id !== projectId) throw foreignFile(now.file.name);
    locked.set(fileId, now);
  }
  await lockProject(client, projectId);
  const placesOf = ({ planned: { fileId, folderId } }: Member): string | null =>
    (fileId ? locked.get(fileId)?.file.folder_id : folderId) ?? null;
  const folders = new Set(members.map(placesOf));
  for (const folderId of folders) await permit(by, 'check out', { projectId, folderId }, CHECK_IN, client);
  await refuseNoteless(client, projectId, folders, note);
  for (const { fileId, base } of there) await refuseConflict(client, fileId, by, locked.get(fileId)?.newest, base);
  return locked;
}

interface SetUnderWay {
  readonly projectId: string;
  readonly by: Person;
  readonly note: string;
  readonly set: MadeSet;
}

/** Makes one version of a set; gives what the ledger says of it. */
async function landMember(
  client: Client,
  { projectId, by, note, set }: SetUnderWay,
  { planned, name, arrived }: Member,
  contentId: string,
  before: Locked | undefined,
): Promise<Parameters<typeof record>[1][number]> {
  const folderId = planned.folderId ?? null;
  const fileId =
    planned.fileId ??
    (await insertFile(client, { projectId, folderId, name, by: by.id }).catch(nameTaken('file', name)));
  const source = await goneOnFrom(client, fileId, before?.newest, by);
  const version = { fileId, contentId, note, uploadName: arrived.uploadName, by: by.id, setId: set.id, ...source };
  const id = await appendVersion(client, before?.newest, version);
  await tell(client, { kind: 'version', file: fileId, project: projectId });
  const subject = `${before?.file.name ?? name} v${(before?.newest?.number ?? 0) + 1}, set ${set.number}`;
  return { act: 'checked in', by, subject, reason: note, projectId, fileId, versions: [id] };
}
