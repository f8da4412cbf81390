/** Check-in: bytes arrive, and their versions exist completely or not at all, one file or many. */
import { cardOf, detect, HEAD_BYTES, isSameFormat, type Card } from '@ovrel/core';
import type { CheckInResult, FileEntry, Person } from '../../contract/api.ts';
import type { Planned, SetResult } from '../../contract/desk.ts';
import { refuseHeldByOther, release, sourceOf } from '../checkouts/service.ts';
import { config } from '../config.ts';
import { db, one, transaction, type Client, type Db } from '../db/pool.ts';
import { record, type NewEntry } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName, cleanFileName } from '../names.ts';
import { permit } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { noteRequired } from '../projects/notes.ts';
import { folderIn, getFile, nameTaken } from '../projects/service.ts';
import { madeSet, newSet } from '../sets/sets.ts';
import { ContentWriter, type StoredContent } from '../store/writer.ts';
import { versionOf, versionRow, type FileState } from './rows.ts';
import { appendVersion, branchFrom, lockFile, newestOf, type Newest, type NewVersion } from './service.ts';

export interface Incoming {
  /** As the sender calls the file. */
  readonly name: string;
  readonly bytes: AsyncIterable<Uint8Array>;
}

export interface CheckIn {
  readonly note: string;
  /** The newest version that the sender has seen; with it, a version that landed meanwhile is not overlooked. */
  readonly base?: string | undefined;
  readonly allowOtherFormat?: boolean;
  /** The holder keeps the right to change the file. */
  readonly keep?: boolean;
  /** The version starts a branch from `base`, beside what others do on the main line. */
  readonly branch?: boolean;
  readonly kind?: NewVersion['kind'];
  readonly at?: Date;
  readonly title?: string;
}

const LONGEST_NOTE = 4000;
const CHECK_IN = 'check in versions';

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
  await refuseNoteless(db(), file.projectId, file.folderId, options.note);
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  const hints = [...(hint ? [hint] : []), ...renamed(uploadName, file.name)];
  const landed = await transaction(async (client) => {
    if (!options.branch) await refuseConflict(client, fileId, by, await newestOf(client, fileId), options.base);
    const content = await store(client, incoming, (format) => {
      if (!options.allowOtherFormat) refuseOtherFormat(file, format);
    });
    const { file: now, newest } = await lockFile(client, fileId);
    await permitWhereItIs(by, file, now, options.note);
    const here = { id: fileId, name: now.name, projectId: now.project_id };
    const version = {
      fileId,
      contentId: content.id,
      note: options.note.trim(),
      uploadName,
      by: by.id,
      ...(options.kind ? { kind: options.kind } : {}),
      ...(options.at ? { at: options.at } : {}),
      ...(options.title ? { title: options.title } : {}),
    };
    if (options.branch) {
      if (!options.base) throw new Problem(400, 'bad-input', 'Say which version the branch starts from.');
      const set = await newSet(client, {
        projectId: here.projectId,
        kind: 'check-in',
        note: version.note,
        by: by.id,
        at: options.at,
      });
      const branch = await branchFrom(client, options.base, { ...version, setId: set.id }, by);
      await client.query('delete from taken_over where file_id = $1 and person_id = $2', [fileId, by.id]);
      await landedIn(client, here, [
        {
          act: 'branched off',
          by,
          subject: `${here.name} v${branch.number}, ${branch.line}`,
          reason: version.note,
          projectId: here.projectId,
          fileId,
          at: options.at,
        },
      ]);
      return { made: true, id: branch.id };
    }
    await refuseConflict(client, fileId, by, newest, options.base);
    if (newest?.content_id === content.id) return { made: false, id: newest.id };
    const set = await newSet(client, {
      projectId: here.projectId,
      kind: 'check-in',
      note: version.note,
      by: by.id,
      at: options.at,
    });
    const sourceId = await sourceOf(client, fileId, by.id);
    const id = await appendVersion(client, newest, { ...version, setId: set.id, ...(sourceId ? { sourceId } : {}) });
    await release(client, fileId, by.id, options.keep);
    await landedIn(client, here, [
      {
        act: 'checked in',
        by,
        subject: `${here.name} v${(newest?.number ?? 0) + 1}`,
        reason: version.note,
        projectId: here.projectId,
        fileId,
        at: options.at,
      },
    ]);
    return { made: true, id };
  }, 'upload');
  const version = versionOf(await versionRow(landed.id));
  return {
    made: landed.made,
    version,
    hints,
    sentence: !landed.made
      ? `The content is the same as the newest version, v${version.number}, so no version was made.`
      : options.branch
        ? `Checked in as v${version.number} of a new branch, “${version.line}”.`
        : `Checked in as v${version.number}.`,
  };
}

/** A file that was moved while its content arrived lands where it is now, if that is allowed there. */
async function permitWhereItIs(by: Person, before: FileEntry, now: FileState, note: string): Promise<void> {
  if (before.projectId === now.project_id && before.folderId === now.folder_id) return;
  await permit(by, 'check out', { projectId: now.project_id, folderId: now.folder_id }, CHECK_IN);
  await refuseNoteless(db(), now.project_id, now.folder_id, note);
}

const renamed = (uploadName: string, name: string): string[] =>
  uploadName.toLowerCase() === name.toLowerCase()
    ? []
    : [`The file you chose is called “${uploadName}”. It was checked in as a version of “${name}”.`];

async function landedIn(
  client: Client,
  file: Pick<FileEntry, 'id' | 'projectId'>,
  entries: readonly NewEntry[],
): Promise<void> {
  await tell(client, { kind: 'version', file: file.id, project: file.projectId });
  await record(client, entries);
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
  await permit(by, 'check out', { projectId, folderId }, CHECK_IN);
  await refuseNoteless(db(), projectId, folderId, options.note);
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  const fileName = name === undefined ? uploadName : checkName(name, 'file');
  const made = await transaction(async (client) => {
    if (folderId) await folderIn(client, folderId, projectId);
    await refuseTaken(client, projectId, folderId, fileName);
    const content = await store(client, incoming, () => undefined);
    const id = await insertFile(client, { projectId, folderId, name: fileName, by: by.id, at: options.at });
    const set = await newSet(client, {
      projectId,
      kind: 'check-in',
      note: options.note.trim(),
      by: by.id,
      at: options.at,
    });
    await appendVersion(client, undefined, {
      fileId: id,
      contentId: content.id,
      note: options.note.trim(),
      uploadName,
      by: by.id,
      setId: set.id,
      ...(options.at ? { at: options.at } : {}),
      ...(options.title ? { title: options.title } : {}),
    });
    await landedIn(client, { id, projectId }, [
      {
        act: 'checked in',
        by,
        subject: `${fileName} v1`,
        reason: options.note.trim(),
        projectId,
        fileId: id,
        at: options.at,
      },
    ]);
    return { fileId: id };
  }, 'upload');
  return { file: await getFile(by, made.fileId), hints: hint ? [hint] : [] };
}

async function insertFile(
  client: Client,
  {
    projectId,
    folderId,
    name,
    by,
    at,
  }: { projectId: string; folderId: string | null; name: string; by: string; at?: Date | undefined },
): Promise<string> {
  const file = await one<{ id: string }>(
    client,
    'insert into file (project_id, folder_id, name, created_by, created_at) values ($1, $2, $3, $4, coalesce($5, now())) returning id',
    [projectId, folderId, name, by, at ?? null],
  ).catch(nameTaken('file', name));
  if (!file) throw new Error('a file was not inserted');
  return file.id;
}

const foreignFile = (name: string): Problem =>
  new Problem(400, 'bad-input', `“${name}” belongs to another project; a set is of one.`);

interface Arrived {
  readonly planned: Planned;
  readonly file: FileEntry | undefined;
  readonly name: string;
  readonly uploadName: string;
  readonly content: StoredContent;
}

/** Checks in several files under one note: all of them land, or none. `files` come in the order of the plan. */
export async function checkInSet(
  by: Person,
  projectId: string,
  plan: readonly Planned[],
  files: AsyncIterable<Incoming>,
  note: string,
): Promise<SetResult> {
  checkNote(note);
  const existing = new Map<string, FileEntry>();
  for (const { fileId } of plan) if (fileId) existing.set(fileId, await getFile(by, fileId));
  if (new Set(plan.flatMap((p) => p.fileId ?? [])).size < plan.filter((p) => p.fileId).length)
    throw new Problem(400, 'bad-input', 'The same file is in the set twice.');
  for (const p of plan)
    await refuseNoteless(
      db(),
      projectId,
      p.fileId ? (existing.get(p.fileId)?.folderId ?? null) : (p.folderId ?? null),
      note,
    );
  const foreign = [...existing.values()].find((f) => f.projectId !== projectId);
  if (foreign) throw foreignFile(foreign.name);
  const folders = new Set(plan.map((p) => (p.fileId ? existing.get(p.fileId)?.folderId : p.folderId) ?? null));
  for (const folderId of folders) await permit(by, 'check out', { projectId, folderId }, CHECK_IN);
  const hints: string[] = [];
  const same: string[] = [];
  const setId = await transaction(async (client) => {
    const arrived: Arrived[] = [];
    for await (const incoming of files) {
      const planned = plan[arrived.length];
      if (!planned) throw new Problem(400, 'bad-input', 'More files came than were announced.');
      arrived.push(await receive(client, by, projectId, planned, existing, incoming, hints));
    }
    if (arrived.length < plan.length)
      throw new Problem(
        400,
        'cut-off',
        `Only ${arrived.length} of ${plan.length} files came. Nothing was stored; send the set again.`,
      );
    const newest = new Map<string, Newest | undefined>();
    const named = new Map<string, string>();
    for (const [id, before] of [...existing].sort(([p], [q]) => (p < q ? -1 : 1))) {
      const locked = await lockFile(client, id);
      if (locked.file.project_id !== projectId) throw foreignFile(locked.file.name);
      await permitWhereItIs(by, before, locked.file, note);
      newest.set(id, locked.newest);
      named.set(id, locked.file.name);
    }
    for (const { planned } of arrived)
      if (planned.fileId) await refuseConflict(client, planned.fileId, by, newest.get(planned.fileId), planned.base);
    const changed = arrived.filter(({ planned, content, name }) => {
      const unchanged = planned.fileId !== undefined && newest.get(planned.fileId)?.content_id === content.id;
      if (unchanged) same.push(name);
      return !unchanged;
    });
    if (!changed.length) {
      for (const { planned } of arrived) if (planned.fileId) await release(client, planned.fileId, by.id, planned.keep);
      return undefined;
    }
    const ids = new Map<Arrived, string>();
    for (const a of changed)
      ids.set(
        a,
        a.planned.fileId ??
          (await insertFile(client, { projectId, folderId: a.planned.folderId ?? null, name: a.name, by: by.id })),
      );
    const set = await newSet(client, { projectId, kind: 'check-in', note: note.trim(), by: by.id });
    const entries: NewEntry[] = [];
    for (const [a, fileId] of ids) {
      const before = newest.get(fileId);
      const sourceId = await sourceOf(client, fileId, by.id);
      await appendVersion(client, before, {
        fileId,
        contentId: a.content.id,
        note: note.trim(),
        uploadName: a.uploadName,
        by: by.id,
        setId: set.id,
        ...(sourceId ? { sourceId } : {}),
      });
      await tell(client, { kind: 'version', file: fileId, project: projectId });
      entries.push({
        act: 'checked in',
        by,
        subject: `${named.get(fileId) ?? a.name} v${(before?.number ?? 0) + 1}, set ${set.number}`,
        reason: note.trim(),
        projectId,
        fileId,
      });
    }
    for (const { planned } of arrived) if (planned.fileId) await release(client, planned.fileId, by.id, planned.keep);
    await record(client, entries);
    return set.id;
  }, 'upload');
  const set = setId === undefined ? null : await madeSet(by, setId);
  const n = set?.files.length ?? 0;
  return {
    set,
    same,
    hints,
    sentence: set
      ? `Set ${set.number} was checked in: ${n} ${n === 1 ? 'file' : 'files'}.`
      : 'All of it is the same as the newest versions, so nothing was made.',
  };
}

async function receive(
  client: Client,
  by: Person,
  projectId: string,
  planned: Planned,
  existing: ReadonlyMap<string, FileEntry>,
  incoming: Incoming,
  hints: string[],
): Promise<Arrived> {
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  if (hint) hints.push(hint);
  const file = planned.fileId ? existing.get(planned.fileId) : undefined;
  if (file) {
    hints.push(...renamed(uploadName, file.name));
    await refuseConflict(client, file.id, by, await newestOf(client, file.id), planned.base);
    const content = await store(client, incoming, (format) => {
      if (!planned.allowOtherFormat) refuseOtherFormat(file, format);
    });
    return { planned, file, name: file.name, uploadName, content };
  }
  const name = planned.name === undefined ? uploadName : checkName(planned.name, 'file');
  if (planned.folderId) await folderIn(client, planned.folderId, projectId);
  await refuseTaken(client, projectId, planned.folderId ?? null, name);
  return { planned, file: undefined, name, uploadName, content: await store(client, incoming, () => undefined) };
}

function checkNote(note: string): void {
  if (note.length > LONGEST_NOTE)
    throw new Problem(
      400,
      'note-too-long',
      `The note has ${note.length.toLocaleString('en')} characters; it can have at most ${LONGEST_NOTE.toLocaleString('en')}.`,
    );
}

async function refuseNoteless(client: Db, projectId: string, folderId: string | null, note: string): Promise<void> {
  if (!note.trim() && (await noteRequired(client, projectId, folderId)))
    throw new Problem(400, 'note-required', 'Here every check-in needs a note: say why.');
}

/** Nobody's work is overwritten: neither what somebody else holds, nor what landed meanwhile. */
async function refuseConflict(
  client: Client,
  fileId: string,
  by: Person,
  newest: Newest | undefined,
  base: string | undefined,
): Promise<void> {
  const over = await one<{ name: string; reason: string }>(
    client,
    'select p.name, t.reason from taken_over t join person p on p.id = t.by_id where t.file_id = $1 and t.person_id = $2',
    [fileId, by.id],
  );
  if (over)
    throw new Problem(
      409,
      'taken-over',
      `${over.name} took your check-out over (“${over.reason}”). Check your work in as a branch: it stays whole, beside the main line.`,
      { branch: true },
    );
  await refuseHeldByOther(client, fileId, by);
  if (!base || !newest || newest.id === base) return;
  throw new Problem(
    409,
    'newer-version',
    `v${newest.number} was checked in while you were at work. Nothing of yours was stored yet: look at v${newest.number} first, or check in on top of it.`,
    { newest: newest.number, newestId: newest.id },
  );
}

/** Told before another name clash can cost a whole upload. */
async function refuseTaken(client: Client, projectId: string, folderId: string | null, name: string): Promise<void> {
  const taken = await one(
    client,
    'select 1 from file where project_id = $1 and folder_id is not distinct from $2 and lower(name) = lower($3) and deleted_in is null',
    [projectId, folderId, name],
  );
  if (taken)
    throw new Problem(
      409,
      'name-taken',
      `There is already a file called “${name}” here (capitals do not count). Open it to check in a new version, or choose another name.`,
    );
}

function refuseOtherFormat(file: FileEntry, format: string | null): void {
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

/** Streams the bytes into the store. `onFormat` is told what they are as soon as that is known, and may refuse. */
async function store(
  client: Client,
  incoming: Incoming,
  onFormat: (format: string | null) => void,
): Promise<StoredContent> {
  const writer = new ContentWriter(client);
  const limit = config.uploadLimit;
  let head: Uint8Array[] = [];
  let headBytes = 0;
  let format: string | null | undefined;
  const settle = (): string | null => {
    const found = detect(Buffer.concat(head), incoming.name)?.id ?? null;
    head = [];
    onFormat(found);
    return found;
  };
  for await (const bytes of incoming.bytes) {
    if (writer.size + bytes.length > limit) {
      throw new Problem(
        413,
        'too-large',
        `The file is larger than ${sayBytes(limit)}, the largest that can be checked in here. An administrator can raise the limit (OVREL_UPLOAD_LIMIT).`,
      );
    }
    if (format === undefined) {
      head.push(bytes);
      headBytes += bytes.length;
      if (headBytes >= HEAD_BYTES) format = settle();
    }
    await writer.write(bytes);
  }
  format ??= settle();
  return writer.finish(format);
}

function sayBytes(n: number): string {
  if (n >= 1024 ** 3) return `${Math.round((n / 1024 ** 3) * 10) / 10} GB`;
  return n >= 1024 ** 2 ? `${Math.round(n / 1024 ** 2)} MB` : `${n.toLocaleString('en')} bytes`;
}
