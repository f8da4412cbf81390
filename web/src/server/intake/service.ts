/** Old copies come in as histories: files, lines and versions with their own times, all of them or none. */
import { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { PlannedCopy, PlannedFile, TakenIn } from '../../contract/intake.ts';
import { db, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { checkName } from '../names.ts';
import { permit } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { insertFile, lockProject } from '../projects/rows.ts';
import { folderIn, nameTaken } from '../projects/service.ts';
import { newSet } from '../sets/sets.ts';
import { receive, storeArrived, type Arrived, type Incoming } from '../versions/arrival.ts';
import { discardFiles, landing, once, type Attempt } from '../versions/attempt.ts';
import { checkNote, refuseTaken } from '../versions/refusals.ts';
import { insertLine, type Newest } from '../versions/rows.ts';
import { addVersion, appendVersion, type NewVersion } from '../versions/service.ts';

const DOING = 'take copies in';

const landedSchema = z.object({
  set: z.number(),
  files: z.array(z.object({ fileId: z.string(), name: z.string(), versions: z.number(), lines: z.number() })),
});
type Landed = z.infer<typeof landedSchema>;

export async function takeIn(
  by: Person,
  projectId: string,
  plan: readonly PlannedFile[],
  files: AsyncIterable<Incoming>,
  { note, key }: { readonly note: string; readonly key: string | undefined },
): Promise<TakenIn> {
  checkNote(note);
  refuseBadPlan(plan);
  const attempt: Attempt<Landed> = { by, key, what: `intake ${projectId}`, outcome: landedSchema };
  const landed = await once(
    attempt,
    async () => {
      for (const folderId of new Set(plan.map((file) => file.folderId)))
        await permit(by, 'check out', { projectId, folderId }, DOING);
      for (const { folderId, name } of plan) await refuseTaken(db(), projectId, folderId, name);
      const arrived = await receiveAll(plan, files);
      return landing(attempt, arrived, (client) => land(client, by, projectId, plan, arrived, note));
    },
    () => discardFiles(files),
  );
  const versions = landed.files.reduce((n, file) => n + file.versions, 0);
  const n = landed.files.length;
  return {
    ...landed,
    sentence: `Set ${landed.set}: ${versions} ${versions === 1 ? 'copy is' : 'copies are'} ${n === 1 ? 'one file' : `${n} files`} now, with ${n === 1 ? 'its' : 'their'} history.`,
  };
}

/** Parents stand before what came from them; a line goes on from its own last copy. */
function refuseBadPlan(plan: readonly PlannedFile[]): void {
  for (const { name, copies } of plan) {
    checkName(name, 'file');
    copies.forEach(({ parent }, k) => {
      if (k === 0 ? parent !== null : parent === null || parent >= k)
        throw new Problem(
          400,
          'bad-input',
          `The plan of “${name}” is not in order: each copy follows the one that it came from.`,
        );
    });
    if (copies[0]?.line !== 0) throw new Problem(400, 'bad-input', `The first copy of “${name}” is on the main line.`);
  }
}

async function receiveAll(plan: readonly PlannedFile[], files: AsyncIterable<Incoming>): Promise<Arrived[]> {
  const wanted = plan.reduce((n, file) => n + file.copies.length, 0);
  const arrived: Arrived[] = [];
  try {
    for await (const incoming of files) {
      if (arrived.length === wanted) throw new Problem(400, 'bad-input', 'More copies came than were announced.');
      arrived.push(await receive(incoming, () => undefined));
    }
    if (arrived.length < wanted)
      throw new Problem(
        400,
        'cut-off',
        `Only ${arrived.length} of ${wanted} copies came. Nothing was stored; send them again.`,
      );
    return arrived;
  } catch (error) {
    for (const { spool } of arrived) await spool.end();
    throw error;
  }
}

async function land(
  client: Client,
  by: Person,
  projectId: string,
  plan: readonly PlannedFile[],
  arrived: readonly Arrived[],
  note: string,
): Promise<Landed> {
  const contents: string[] = [];
  for (const one of arrived) contents.push((await storeArrived(client, one)).id);
  await lockProject(client, projectId);
  for (const folderId of new Set(plan.map((file) => file.folderId))) {
    await permit(by, 'check out', { projectId, folderId }, DOING, client);
    if (folderId) await folderIn(client, folderId, projectId);
  }
  const why = note.trim() || 'Old copies, taken in.';
  const set = await newSet(client, { projectId, kind: 'check-in', note: why, by: by.id });
  const files: Landed['files'] = [];
  const entries: Parameters<typeof record>[1][number][] = [];
  let first = 0;
  for (const file of plan) {
    const own = contents.slice(first, first + file.copies.length);
    first += file.copies.length;
    const made = await landFile(client, by, { projectId, setId: set.id }, file, own);
    files.push({ fileId: made.fileId, name: file.name, versions: made.versions.length, lines: made.lines });
    await tell(client, { kind: 'files', file: made.fileId, project: projectId });
    const subject = `${file.name}, ${made.versions.length} copies, set ${set.number}`;
    entries.push({ act: 'took in', by, subject, reason: why, projectId, fileId: made.fileId, versions: made.versions });
  }
  await record(client, entries);
  return { set: set.number, files };
}

interface Into {
  readonly projectId: string;
  readonly setId: string;
}

/** The newest version of each line so far, by the line's number in the plan. */
type Lines = Map<number, Newest>;

async function landFile(
  client: Client,
  by: Person,
  { projectId, setId }: Into,
  { name, folderId, copies }: PlannedFile,
  contents: readonly string[],
): Promise<{ fileId: string; versions: string[]; lines: number }> {
  const fileId = await insertFile(client, { projectId, folderId, name, by: by.id, at: undefined }).catch(
    nameTaken('file', name),
  );
  const lines: Lines = new Map();
  const made: Newest[] = [];
  for (const [k, copy] of copies.entries()) {
    const version: NewVersion = {
      fileId,
      contentId: contents[k] ?? '',
      note: noteOf(copy),
      uploadName: copy.path.split('/').at(-1) ?? copy.path,
      kind: 'backup',
      by: by.id,
      at: copy.at === null ? undefined : new Date(copy.at),
      setId,
    };
    made.push(await landCopy(client, lines, made, copy, version));
  }
  return { fileId, versions: made.map(({ id }) => id), lines: lines.size };
}

const noteOf = ({ path, person, reason }: PlannedCopy): string =>
  `${path}${person ? `, made by ${person}` : ''}${reason ? `: ${reason}` : ''}`;

async function landCopy(
  client: Client,
  lines: Lines,
  made: readonly Newest[],
  { line, parent }: PlannedCopy,
  version: NewVersion,
): Promise<Newest> {
  const before = lines.get(line);
  const from = parent === null ? undefined : made[parent];
  const content_id = version.contentId;
  if (before || !from) {
    const id = await appendVersion(client, before, version);
    const lineId = before?.line_id ?? (await lineOf(client, id));
    const newest = { id, number: (before?.number ?? 0) + 1, content_id, line_id: lineId, position: line };
    lines.set(line, newest);
    return newest;
  }
  const name = version.uploadName.replace(/\.[^.]+$/, '');
  const lineId = await insertLine(client, version.fileId, `${name} (${line})`, line, from.id);
  const number = from.number + 1;
  const id = await addVersion(client, lineId, number, [{ id: from.id, role: 'follows' }], version);
  const newest = { id, number, content_id, line_id: lineId, position: line };
  lines.set(line, newest);
  return newest;
}

async function lineOf(client: Client, versionId: string): Promise<string> {
  const { rows } = await client.query<{ line_id: string }>('select line_id from version where id = $1', [versionId]);
  return rows[0]?.line_id ?? '';
}
