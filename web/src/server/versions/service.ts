/** Versions of files: listed, shown on the rail, and made. */
import type { Right } from '../../contract/access.ts';
import type { Person, RailColumns, SourceRole, Version, VersionDetail } from '../../contract/api.ts';
import { refuseHeldByOther } from '../checkouts/service.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { lookAt } from '../facts/look.ts';
import { enqueue } from '../jobs/queue.ts';
import { standsInstead } from '../keeping/rows.ts';
import { record, type Act } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit, permitVersion, placeOfFile, rightsAt } from '../people/access.ts';
import { onceAPage } from '../once-a-page.ts';
import { notFound, Problem } from '../problem.ts';
import { sittingPauseOf } from '../projects/rows.ts';
import { newSet } from '../sets/sets.ts';
import { summariseLater } from './prepare.ts';
import {
  countVersion,
  insertLine,
  insertParents,
  insertVersionRow,
  laneRows,
  linesOf,
  lockedFile,
  newestOf,
  peopleByAge,
  railRow,
  specialVersions,
  versionFor,
  versionOf,
  versionPlace,
  versionRow,
  versionsOfLine,
  type FileState,
  type LineRef,
  type Newest,
  type Parent,
  type VersionRow,
} from './rows.ts';

export { newestOf, type Newest };

/** Versions in a window whose ends are not both given, and in the largest one. */
const WINDOW = 200;
const LARGEST_WINDOW = 1000;

interface SeenLine {
  readonly projectId: string;
  readonly newest: Newest;
  /** The number of the oldest that they see. */
  readonly oldest: number;
  readonly held: ReadonlySet<Right>;
}

/** What somebody sees of a line: all of it, or the newest version alone. */
const seenLine = (by: Person, fileId: string, line: LineRef): Promise<SeenLine> =>
  onceAPage(`line ${fileId} ${line} ${by.id}`, () => lookUpLine(by, fileId, line));

async function lookUpLine(by: Person, fileId: string, line: LineRef): Promise<SeenLine> {
  const place = await placeOfFile(fileId);
  const { projectId } = place;
  const held = await rightsAt(by, place);
  const newest = await newestOf(db(), fileId, line);
  if (!newest) throw notFound('file');
  if (held.has('see old versions')) return { projectId, newest, oldest: 0, held };
  // Other lines are old versions as a whole, and so are those of deleted files.
  if (newest.position > 0 || place.deleted || !held.has('see'))
    await permit(by, held.has('see') ? 'see old versions' : 'see', place);
  return { projectId, newest, oldest: newest.number, held };
}

interface Window {
  readonly from?: number | undefined;
  readonly to?: number | undefined;
  readonly line?: LineRef | undefined;
}

/**
 * Versions of a file's main line, or of another, oldest first: those with numbers from `from` to `to`, or the newest
 * 200.
 */
export async function listVersions(
  by: Person,
  fileId: string,
  { from, to, line = 0 }: Window = {},
): Promise<Version[]> {
  const { newest, oldest, held } = await seenLine(by, fileId, line);
  if (from !== undefined && to !== undefined && to - from >= LARGEST_WINDOW)
    throw new Problem(400, 'bad-input', `Ask for at most ${LARGEST_WINDOW.toLocaleString('en')} versions at a time.`);
  const wanted = to ?? (from === undefined ? newest.number : from + WINDOW - 1);
  const last = Math.min(wanted, newest.number);
  const first = Math.max(from ?? last - WINDOW + 1, oldest);
  const rows = await versionsOfLine(db(), newest.line_id, first, last);
  await summariseLater(fileId, rows);
  return rows.map((row) => versionFor(row, held));
}

const numbersIn = (text: string | null | undefined): number[] => text?.split(',').map(Number) ?? [];

/** What the rail shows of all versions of a line. */
export async function railOf(by: Person, fileId: string, line: LineRef = 0): Promise<RailColumns> {
  const { projectId, newest, oldest } = await seenLine(by, fileId, line);
  const people = await peopleByAge(db());
  const ids = people.map((p) => p.id);
  const [columns, lines, special, lanes, sittingPause] = await Promise.all([
    railRow(db(), newest.line_id, oldest, ids),
    linesOf(db(), fileId, oldest === 0),
    specialVersions(db(), newest.line_id, oldest),
    oldest === 0 ? laneRows(db(), fileId, newest.line_id, ids) : [],
    sittingPauseOf(db(), projectId),
  ]);
  return {
    line: newest.line_id,
    ids: columns?.ids?.split(',') ?? [],
    numbers: numbersIn(columns?.numbers),
    at: numbersIn(columns?.at),
    kinds: columns?.kinds ?? '',
    sittingPause,
    by: numbersIn(columns?.by),
    people,
    lanes: lanes.map((lane) => ({
      line: lane.line_id,
      ids: lane.ids?.split(',') ?? [],
      numbers: numbersIn(lane.numbers),
      at: numbersIn(lane.at),
      kinds: lane.kinds ?? '',
      by: numbersIn(lane.by),
    })),
    lines: lines.map(({ id, position, name, from_id, from_number, closed_at }) => ({
      id,
      position,
      name,
      from: from_id === null || from_number === null ? null : { id: from_id, number: from_number },
      closed: closed_at !== null,
    })),
    titles: special.flatMap((v): [string, string][] => (v.title === null ? [] : [[v.id, v.title]])),
    sources: special.flatMap((v): [string, string][] => (v.source_id === null ? [] : [[v.id, v.source_id]])),
  };
}

export async function getVersion(by: Person, id: string, again = false): Promise<VersionDetail> {
  const held = await rightsAt(by, await permitVersion(by, id));
  const row = await versionRow(id);
  return { ...versionFor(row, held), look: await lookAt(row, { again }) };
}

export interface NewVersion {
  readonly fileId: string;
  readonly contentId: string;
  readonly note: string;
  readonly uploadName: string;
  readonly kind?: Version['kind'] | undefined;
  /** The older version that it brings forward or goes on from. */
  readonly sourceId?: string | undefined;
  /** What it has of that one; it brings it forward where nothing is said. */
  readonly sourceRole?: SourceRole | undefined;
  readonly by: string;
  readonly setId: string;
  /** Only the demo's loader says when. */
  readonly at?: Date | undefined;
  readonly title?: string | undefined;
}

export interface Locked {
  readonly file: FileState;
  readonly newest: Newest | undefined;
}

/** Locks the file until the end of the transaction, so that versions land one after another; gives it as it is then. */
export async function lockFile(client: Client, fileId: string): Promise<Locked> {
  const file = await lockedFile(client, fileId);
  if (!file) throw notFound('file');
  if (file.deleted_in) throw new Problem(409, 'deleted', `“${file.name}” is deleted. Bring it back first.`);
  return { file, newest: await newestOf(client, fileId) };
}

/** Adds a version after the newest one, and puts into the queue what follows from it. The file must be locked. */
export async function appendVersion(client: Client, newest: Newest | undefined, v: NewVersion): Promise<string> {
  const lineId = newest?.line_id ?? (await insertLine(client, v.fileId, 'main line', 0, null));
  const follows: Parent[] = newest ? [{ id: newest.id, role: 'follows' }] : [];
  const id = await addVersion(client, lineId, (newest?.number ?? 0) + 1, follows, v);
  await countVersion(client, v.fileId, v.at, newest ? 0 : 1);
  return id;
}

/** Adds a version to a line. The file must be locked. */
export async function addVersion(
  client: Client,
  lineId: string,
  number: number,
  follows: readonly Parent[],
  v: NewVersion,
): Promise<string> {
  const { kind = 'check-in', title = null, at } = v;
  const id = await insertVersionRow(client, { ...v, lineId, number, kind, title, at });
  const role = v.sourceRole ?? 'brought forward from';
  const source: Parent[] = v.sourceId === undefined ? [] : [{ id: v.sourceId, role }];
  await insertParents(client, id, [...follows, ...source]);
  const said = `${v.uploadName} v${number}`;
  const asked = { key: id, by: v.by };
  await enqueue(client, { ...asked, kind: 'look', title: `Looking into ${said}`, data: { versionId: id } });
  await enqueue(client, { ...asked, kind: 'pack', title: `Making ${said} smaller`, data: { fileId: v.fileId } });
  return id;
}

/**
 * Starts a line of its own from a version, with `v` as its first; its numbers go on from there. The file must be
 * locked.
 */
export async function branchFrom(
  client: Client,
  fromId: string,
  v: NewVersion,
  by: Person,
): Promise<{ id: string; number: number; line: string }> {
  const from = await versionPlace(client, fromId);
  if (!from) {
    // What it was made of was swept meanwhile: it goes on from what stands there now.
    const instead = await standsInstead(client, v.fileId, fromId);
    if (instead) return branchFrom(client, instead.id, v, by);
  }
  if (from?.file_id !== v.fileId) throw notFound('version');
  const lines = await linesOf(client, v.fileId, true);
  const name = freeName(
    `branch of ${by.name}`,
    lines.map((l) => l.name),
  );
  const position = 1 + Math.max(0, ...lines.map((l) => l.position));
  const lineId = await insertLine(client, v.fileId, name, position, fromId);
  const number = from.number + 1;
  const id = await addVersion(client, lineId, number, [{ id: fromId, role: 'follows' }], v);
  return { id, number, line: name };
}

/** "branch of Ines", "branch of Ines 2" … */
function freeName(name: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const tried = n === 1 ? name : `${name} ${n}`;
    if (!taken.includes(tried)) return tried;
  }
}

/** Makes an older version's content the newest version. Nothing is removed. */
export async function bringForward(by: Person, versionId: string, note: string, at?: Date): Promise<Version> {
  await permit(by, 'bring forward', await permitVersion(by, versionId));
  const source = await versionRow(versionId);
  const id = await transaction(async (client) => {
    const { file, newest } = await lockFile(client, source.file_id);
    if (newest) await refuseHeldByOther(client, newest.line_id, by);
    if (newest?.content_id === source.content_id) {
      const same = `The newest version, v${newest.number}, already has the content of v${source.number}.`;
      const itself = `v${source.number} is the newest version already.`;
      throw new Problem(409, 'already-newest', newest.id === source.id ? itself : same);
    }
    const said = `Brought forward from v${source.number}`;
    return makeNewestAgain(
      client,
      by,
      { file, newest, source, at },
      {
        act: 'brought forward',
        note: note.trim() ? `${said}: ${note.trim()}` : `${said}.`,
        reason: note.trim(),
        subject: `${file.name} v${source.number}, as v${(newest?.number ?? 0) + 1}`,
      },
    );
  });
  return versionOf(await versionRow(id));
}

interface BroughtForward extends Locked {
  /** The version whose content it has again. */
  readonly source: VersionRow;
  readonly at?: Date | undefined;
}

/** What is said of it: on the version, and in the ledger. */
interface SaidOfIt {
  readonly act: Act;
  readonly note: string;
  readonly reason: string;
  readonly subject: string;
}

/** Makes the content of an older version the newest of a line, as a set of its own. The file must be locked. */
export async function makeNewestAgain(
  client: Client,
  by: Person,
  { file, newest, source, at }: BroughtForward,
  { act, note, reason, subject }: SaidOfIt,
): Promise<string> {
  const { project_id: projectId } = file;
  const { file_id: fileId, content_id: contentId, upload_name: uploadName, id: sourceId } = source;
  const set = await newSet(client, { projectId, kind: 'bring forward', note, by: by.id, at });
  const version = { fileId, contentId, uploadName, sourceId, by: by.id, note, setId: set.id, at };
  const made = await appendVersion(client, newest, version);
  await tell(client, { kind: 'version', file: fileId, project: projectId });
  await record(client, [{ act, by, subject, reason, projectId, fileId, at, versions: [made] }]);
  return made;
}
