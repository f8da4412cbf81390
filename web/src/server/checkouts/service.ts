/** Check-outs: at most one holder a line, by the table's key; that of a file is its main line. Others can ask, and some can take over. */
import type { Person } from '../../contract/api.ts';
import type { Checkout, Standing } from '../../contract/desk.ts';
import { db, transaction, type Client, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { presentAt, tell } from '../live/live.ts';
import { permit, permitFile, permitVersion, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { closeSaves } from '../saving/rows.ts';
import {
  requestsFor,
  dropAllCheckouts,
  heldOfFileByOthers,
  heldRow,
  lineRow,
  takenOverRow,
  placesOfFiles,
  lockFilesToTake,
  insertCheckouts,
  heldByOthers,
  fileOfVersion,
  goOnFrom,
  settleTakenOvers,
  heldOf,
  dropCheckouts,
  sourceRow,
  lockHeld,
  nameOfFile,
  putRequest,
  putTakenOver,
  handOver,
  dropRequests,
  type Held,
  type Over,
  dropOwnCheckout,
  forgetSource,
  heldRows,
} from './rows.ts';

async function withRequests(rows: readonly Held[]): Promise<Checkout[]> {
  const asked =
    rows.length === 0
      ? []
      : await requestsFor(
          db(),
          rows.map((r) => r.line_id),
        );
  return rows.map((r) => ({
    fileId: r.file_id,
    line: { id: r.line_id, name: r.line, isMain: r.line_position === 0 },
    fileName: r.file_name,
    projectId: r.project_id,
    by: { id: r.by_id, name: r.by_name },
    at: r.at.toISOString(),
    desk: r.desk,
    number: r.number,
    source: r.source,
    requests: asked
      .filter((a) => a.line_id === r.line_id)
      .map((a) => ({ by: { id: a.id, name: a.name }, reason: a.reason, at: a.at.toISOString() })),
  }));
}

/** Check-outs of a project, or of the person who asks, or all. */
export async function listHeld(
  by: Person,
  { project, mine }: { project?: string | undefined; mine?: 'yes' | 'no' | undefined },
): Promise<Checkout[]> {
  const scope = await scopeOf(by, 'see', project);
  return withRequests(await heldRows(db(), by.id, { project, mine: mine === 'yes' }, scope));
}

const takenOverOf = ({ id, name, reason, at, number, version_id }: Over): NonNullable<Standing['takenOver']> => ({
  by: { id, name },
  reason,
  at: at.toISOString(),
  number,
  versionId: version_id,
});

/** Id of the line that is meant. Throws where the file has no such line. */
async function lineId(client: Db, fileId: string, line: string | undefined): Promise<string> {
  const row = await lineRow(client, fileId, line);
  if (!row) throw notFound(line === undefined ? 'file' : 'line');
  return row.id;
}

export async function standingOf(by: Person, fileId: string, line?: string): Promise<Standing> {
  await permitFile(by, 'see', fileId);
  const meant = await lineId(db(), fileId, line);
  const [held, over, present] = await Promise.all([
    heldRow(db(), meant).then((row) => withRequests(row ? [row] : [])),
    takenOverRow(db(), meant, by.id),
    presentAt(fileId),
  ]);
  return {
    checkout: held[0] ?? null,
    takenOver: over ? takenOverOf(over) : null,
    present,
  };
}

const clock = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});
const since = (at: Date): string => clock.format(at).replace('Sept', 'Sep');

const called = ({ file_name, line, line_position }: Held): string =>
  line_position === 0 ? `“${file_name}”` : `“${line}” of “${file_name}”`;

const heldByOther = (held: Held): Problem =>
  new Problem(
    409,
    'checked-out',
    `${called(held)} is checked out by ${held.by_name} since ${since(held.at)}. You can read it, branch off, or ask for it.`,
    { by: held.by_name, fileId: held.file_id, lineId: held.line_id },
  );

/** Throws where somebody else has the line; what the sender can do instead comes with it. */
export async function refuseHeldByOther(client: Db, lineId: string, by: Person): Promise<void> {
  const held = await heldRow(client, lineId);
  if (held && held.by_id !== by.id) throw heldByOther(held);
}

/** The same where somebody else has any line of the file: of what is done to all of it. */
export async function refuseAnyHeldByOther(client: Db, fileId: string, by: Person): Promise<void> {
  const [held] = await heldOfFileByOthers(client, fileId, by.id);
  if (held) throw heldByOther(held);
}

/** Each place that the files lie in is asked for once. */
async function permitFiles(by: Person, ids: readonly string[]): Promise<void> {
  const places = await placesOfFiles(db(), ids);
  for (const p of places)
    await permit(by, 'check out', { projectId: p.project_id, folderId: p.folder_id }, 'check files out');
}

/**
 * Takes the right to change several files: all of them, or none. With `from`, an older version of the one file, the
 * holder goes on from that; with `line`, it is a line beside the main one.
 */
export async function checkOut(
  by: Person,
  fileIds: readonly string[],
  { desk = '', from, line }: { desk?: string | undefined; from?: string | undefined; line?: string | undefined } = {},
): Promise<Checkout[]> {
  const ids = [...new Set(fileIds)].sort();
  await permitFiles(by, ids);
  if (from) await permitVersion(by, from);
  const lineIds = await transaction(async (client) => {
    const files = await lockFilesToTake(client, ids, line);
    if (files.length < ids.length) throw notFound(line === undefined ? 'file' : 'line');
    const closed = files.find((f) => f.closed);
    if (closed) throw new Problem(409, 'line-closed', `“${closed.line}” is closed. Open it first.`);
    const gone = files.find((f) => f.deleted_in);
    if (gone) throw new Problem(409, 'deleted', `“${gone.name}” is deleted. Bring it back first.`);
    const meant = files.map((f) => f.line_id);
    const taken = await insertCheckouts(client, files, by.id, desk);
    const fresh = new Set(taken.map((t) => t.line_id));
    const held = await heldByOthers(client, meant, by.id);
    if (held.length) {
      const said = held
        .slice(0, 5)
        .map((h) => `${called(h)} is checked out by ${h.by_name} since ${since(h.at)}`)
        .join('; ');
      throw new Problem(
        409,
        'checked-out',
        `${said}${held.length > 5 ? `; and ${held.length - 5} more` : ''}. ${ids.length > 1 ? 'None of the files was checked out for you.' : 'You can read it, branch off, or ask for it.'}`,
        { files: held.map((h) => h.file_id), by: held[0]?.by_name },
      );
    }
    if (from) {
      const source = await fileOfVersion(client, from);
      if (ids.length > 1 || source?.file_id !== ids[0])
        throw new Problem(
          400,
          'bad-input',
          'An older version to go on from must be one of the file that is checked out.',
        );
      await goOnFrom(client, meant[0], from);
    }
    await settleTakenOvers(client, by.id, [...fresh]);
    for (const f of files)
      if (fresh.has(f.line_id)) await tell(client, { kind: 'checkout', file: f.id, project: f.project_id });
    await record(
      client,
      files
        .filter((f) => fresh.has(f.line_id))
        .map((f) => ({
          act: 'checked out' as const,
          by,
          subject: `${f.name}${line === undefined ? '' : `, ${f.line}`}${desk ? ` on ${desk}` : ''}`,
          projectId: f.project_id,
          fileId: f.id,
        })),
    );
    return meant;
  });
  return withRequests(await heldOf(db(), lineIds));
}

/**
 * Gives the right back without a version. Files that the person does not hold are passed over; gives how many were
 * held.
 */
export async function giveUp(by: Person, fileIds: readonly string[], line?: string): Promise<number> {
  return transaction(async (client) => {
    const gone = await dropCheckouts(client, by.id, [...fileIds].sort(), line);
    // What was saved meanwhile is kept as it is.
    await closeSaves(
      client,
      gone.map((g) => g.file_id),
      by.id,
    );
    return tellGivenUp(client, by, gone, '');
  });
}

/** All that somebody has, on whatever line, in a transaction that is under way. */
export async function giveUpAll(client: Client, by: Person, holderId: string, reason: string): Promise<number> {
  return tellGivenUp(client, by, await dropAllCheckouts(client, holderId), reason);
}

async function tellGivenUp(
  client: Client,
  by: Person,
  gone: readonly { file_id: string; name: string; project_id: string }[],
  reason: string,
): Promise<number> {
  for (const g of gone) await tell(client, { kind: 'checkout', file: g.file_id, project: g.project_id });
  await record(
    client,
    gone.map((g) => ({
      act: 'gave up' as const,
      by,
      subject: g.name,
      reason,
      projectId: g.project_id,
      fileId: g.file_id,
    })),
  );
  return gone.length;
}

/** The older version that the holder of a line goes on from. */
export const sourceOf = async (client: Db, lineId: string, by: string): Promise<string | undefined> =>
  (await sourceRow(client, lineId, by))?.source_id ?? undefined;

/** A check-in by its holder ends the check-out, or with `keep` what it went on from. */
export const release = (client: Client, lineId: string, by: string, keep = false): Promise<void> =>
  keep ? forgetSource(client, lineId, by) : dropOwnCheckout(client, lineId, by);

async function heldLine(client: Client, fileId: string, line: string | undefined): Promise<Held> {
  const held = await lockHeld(client, await lineId(client, fileId, line));
  if (held) return held;
  const file = await nameOfFile(client, fileId);
  if (!file) throw notFound('file');
  throw new Problem(409, 'not-checked-out', `“${file.name}” is not checked out any more. You can check it out now.`);
}

/** Asks the holder to give a file back. */
export async function askFor(by: Person, fileId: string, reason: string, line?: string): Promise<Standing> {
  await permitFile(by, 'check out', fileId);
  await transaction(async (client) => {
    const held = await heldLine(client, fileId, line);
    if (held.by_id === by.id) throw new Problem(409, 'yours', `You hold “${held.file_name}” yourself.`);
    await putRequest(client, held.line_id, by.id, reason);
    await tell(client, { kind: 'checkout', file: fileId, project: held.project_id });
    await record(client, [
      {
        act: 'asked for',
        by,
        subject: `${held.file_name}, held by ${held.by_name}`,
        reason,
        projectId: held.project_id,
        fileId,
      },
    ]);
  });
  return standingOf(by, fileId, line);
}

/** Takes a check-out away from its holder, whose next check-in is then offered as a branch. */
export async function takeOver(by: Person, fileId: string, reason: string, line?: string): Promise<Standing> {
  await permitFile(by, 'take over', fileId);
  await transaction(async (client) => {
    const held = await heldLine(client, fileId, line);
    if (held.by_id === by.id) throw new Problem(409, 'yours', `You hold “${held.file_name}” yourself.`);
    await putTakenOver(client, held, held.by_id, by.id, reason, held.number);
    await handOver(client, held.line_id, by.id);
    await dropRequests(client, held.line_id);
    await tell(client, { kind: 'checkout', file: fileId, project: held.project_id });
    await record(client, [
      {
        act: 'took over',
        by,
        subject: `${held.file_name} from ${held.by_name}`,
        reason,
        projectId: held.project_id,
        fileId,
      },
    ]);
  });
  return standingOf(by, fileId, line);
}
