/** Check-in: bytes arrive, and a version exists completely or not at all. */
import { detect, extensionOf, formatById, HEAD_BYTES } from '@ovrel/core';
import type { CheckInResult, FileEntry, Person } from '../../contract/api.ts';
import { config } from '../config.ts';
import { one, transaction, type Client } from '../db/pool.ts';
import { checkName, cleanFileName } from '../names.ts';
import { require } from '../people/permissions.ts';
import { Problem } from '../problem.ts';
import { folderIn, getFile, getProject, nameTaken } from '../projects/service.ts';
import { ContentWriter, type StoredContent } from '../store/writer.ts';
import { versionOf, versionRow } from './rows.ts';
import { appendVersion, lockFile, newestOf, type Newest, type NewVersion } from './service.ts';

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
  readonly kind?: NewVersion['kind'];
  readonly at?: Date;
  readonly title?: string;
}

const LONGEST_NOTE = 4000;

/** Adds a version to a file. */
export async function checkIn(by: Person, fileId: string, incoming: Incoming, options: CheckIn): Promise<CheckInResult> {
  require(by, 'check in');
  checkNote(options.note);
  const file = await getFile(by, fileId);
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  const hints = hint ? [hint] : [];
  if (extensionOf(uploadName) !== extensionOf(file.name) || uploadName.toLowerCase() !== file.name.toLowerCase()) {
    hints.push(`The file you chose is called “${uploadName}”. It was checked in as a version of “${file.name}”.`);
  }
  const landed = await transaction(async (client) => {
    refuseStale(await newestOf(client, fileId), options.base);
    const content = await store(client, incoming, (format) => {
      if (!options.allowOtherFormat) refuseOtherFormat(file, format);
    });
    const newest = await lockFile(client, fileId);
    refuseStale(newest, options.base);
    if (newest?.content_id === content.id) return { made: false, id: newest.id };
    const id = await appendVersion(client, newest, {
      fileId, contentId: content.id, note: options.note.trim(), uploadName, by: by.id,
      ...(options.kind ? { kind: options.kind } : {}), ...(options.at ? { at: options.at } : {}), ...(options.title ? { title: options.title } : {}),
    });
    return { made: true, id };
  }, 'upload');
  const row = await versionRow(landed.id);
  const version = versionOf(row);
  return {
    made: landed.made, version, hints,
    sentence: landed.made ? `Checked in as v${version.number}.` : `The content is the same as the newest version, v${version.number}, so no version was made.`,
  };
}

/** Makes a file with its first version. */
export async function makeFile(by: Person, projectId: string, folderId: string | null, name: string | undefined, incoming: Incoming, options: CheckIn): Promise<{ file: FileEntry; hints: string[] }> {
  require(by, 'check in');
  checkNote(options.note);
  await getProject(by, projectId);
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  const fileName = name === undefined ? uploadName : checkName(name, 'file');
  const made = await transaction(async (client) => {
    if (folderId) await folderIn(client, folderId, projectId);
    await refuseTaken(client, projectId, folderId, fileName);
    const content = await store(client, incoming, () => undefined);
    const file = await one<{ id: string }>(client, 'insert into file (project_id, folder_id, name, created_by, created_at) values ($1, $2, $3, $4, coalesce($5, now())) returning id',
      [projectId, folderId, fileName, by.id, options.at ?? null]).catch(nameTaken('file', fileName));
    if (!file) throw new Error('a file was not inserted');
    await appendVersion(client, undefined, {
      fileId: file.id, contentId: content.id, note: options.note.trim(), uploadName, by: by.id,
      ...(options.at ? { at: options.at } : {}), ...(options.title ? { title: options.title } : {}),
    });
    return { fileId: file.id };
  }, 'upload');
  return { file: await getFile(by, made.fileId), hints: hint ? [hint] : [] };
}

function checkNote(note: string): void {
  if (note.length > LONGEST_NOTE) throw new Problem(400, 'note-too-long', `The note has ${note.length.toLocaleString('en')} characters; it can have at most ${LONGEST_NOTE.toLocaleString('en')}.`);
}

function refuseStale(newest: Newest | undefined, base: string | undefined): void {
  if (!base || !newest || newest.id === base) return;
  throw new Problem(409, 'newer-version', `v${newest.number} was checked in while you were at work. Nothing of yours was stored yet: look at v${newest.number} first, or check in on top of it.`, { newest: newest.number, newestId: newest.id });
}

/** Told before another name clash can cost a whole upload. */
async function refuseTaken(client: Client, projectId: string, folderId: string | null, name: string): Promise<void> {
  const taken = await one(client, 'select 1 from file where project_id = $1 and folder_id is not distinct from $2 and lower(name) = lower($3)', [projectId, folderId, name]);
  if (taken) throw new Problem(409, 'name-taken', `There is already a file called “${name}” here (capitals do not count). Open it to check in a new version, or choose another name.`);
}

function refuseOtherFormat(file: FileEntry, format: string | null): void {
  const before = file.newest.format;
  if (before === format) return;
  const title = (id: string | null): string => (id ? `a ${formatById(id)?.title ?? id} file`.replace(/ (drawing|picture|document|container|model|file) file$/, ' $1') : 'a file of unknown kind');
  throw new Problem(409, 'other-format', `The newest version of “${file.name}” is ${title(before)}; what you are checking in is ${title(format)}. Check it in all the same?`, { before, now: format });
}

/** Streams the bytes into the store. `onFormat` is told what they are as soon as that is known, and may refuse. */
async function store(client: Client, incoming: Incoming, onFormat: (format: string | null) => void): Promise<StoredContent> {
  const writer = new ContentWriter(client);
  const limit = config.uploadLimit;
  let head: Uint8Array[] = [], headBytes = 0;
  let format: string | null | undefined;
  const settle = (): string | null => {
    const found = detect(Buffer.concat(head))?.id ?? null;
    head = [];
    onFormat(found);
    return found;
  };
  for await (const bytes of incoming.bytes) {
    if (writer.size + bytes.length > limit) {
      throw new Problem(413, 'too-large', `The file is larger than ${sayBytes(limit)}, the largest that can be checked in here. An administrator can raise the limit (OVREL_UPLOAD_LIMIT).`);
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

const sayBytes = (n: number): string => (n >= 1024 ** 3 ? `${Math.round((n / 1024 ** 3) * 10) / 10} GB` : n >= 1024 ** 2 ? `${Math.round(n / 1024 ** 2)} MB` : `${n.toLocaleString('en')} bytes`);
