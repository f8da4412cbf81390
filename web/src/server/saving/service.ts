/**
 * Saves: versions without a note. Where saves count at once they are the newest for everybody; else they stand on a line
 * of their saver beside the main one, until that person checks in. What was made of an older version never takes the
 * place of a newer one.
 */
import { inSittings, type SavedVersion } from '@ovrel/core';
import { z } from 'zod';
import type { Person, Version } from '../../contract/api.ts';
import type { Saved, saveFormSchema } from '../../contract/saving.ts';
import { heldRow } from '../checkouts/rows.ts';
import { transaction, type Client } from '../db/pool.ts';
import { standsInstead } from '../keeping/rows.ts';
import { record } from '../ledger/ledger.ts';
import { nextPosition, hasLineCalled } from '../lines/rows.ts';
import { tell } from '../live/live.ts';
import { permit, permitVersion } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { lockProject } from '../projects/rows.ts';
import { holds, savesRule } from '../projects/rules.ts';
import { getFile } from '../projects/service.ts';
import { pauseIn } from '../projects/sittings.ts';
import { newSet } from '../sets/sets.ts';
import { receive, storeArrived, type Arrived, type Incoming } from '../versions/arrival.ts';
import { discardFile, landing, once, type Attempt } from '../versions/attempt.ts';
import { refuseOtherFormat } from '../versions/refusals.ts';
import { insertLine, versionOf, versionRow, type Newest, type VersionRow } from '../versions/rows.ts';
import { addVersion, appendVersion, lockFile, makeNewestAgain, type NewVersion } from '../versions/service.ts';
import { followedBy, lastOfLine, markSavesLine, newestBeside, ownSaves, type SaveRow } from './rows.ts';

const DOING = 'save versions';
/** Saves of a sitting that are looked through for its beginning. */
const LONGEST_SITTING = 2000;

type Options = Pick<z.output<typeof saveFormSchema>, 'key' | 'base' | 'title'> & {
  readonly kind?: 'autosave' | 'backup' | undefined;
};

const landedSchema = z.object({ made: z.boolean(), id: z.string(), aside: z.boolean() });
type Landed = z.infer<typeof landedSchema>;

export async function save(by: Person, fileId: string, incoming: Incoming, options: Options): Promise<Saved> {
  const file = await getFile(by, fileId);
  await permit(by, 'check out', file, DOING);
  const attempt: Attempt<Landed> = { by, key: options.key, what: `save ${fileId}`, outcome: landedSchema };
  const landed = await once(
    attempt,
    async () => {
      const arrived = await receive(incoming, (format) => refuseOtherFormat(file, format));
      return landing(attempt, [arrived], (client) => land(client, by, fileId, arrived, options));
    },
    () => discardFile(incoming),
  );
  const version = versionOf(await versionRow(landed.id));
  return { made: landed.made, aside: landed.aside, version, sentence: sentenceFor(landed, version) };
}

function sentenceFor({ made, aside }: Landed, { number, line }: Version): string {
  if (!made) return `Nothing is new since v${number}, so no version was made.`;
  return aside ? `Saved as v${number} on “${line}”, beside the main line.` : `Saved as v${number}.`;
}

async function land(
  client: Client,
  by: Person,
  fileId: string,
  arrived: Arrived,
  { base, kind = 'autosave', title }: Options,
): Promise<Landed> {
  const content = await storeArrived(client, arrived);
  const { file, newest } = await lockFile(client, fileId);
  const { project_id: projectId, folder_id: folderId } = file;
  await lockProject(client, projectId);
  await permit(by, 'check out', { projectId, folderId }, DOING, client);
  if (!newest) throw notFound('file');
  const target = await targetFor(client, by, { projectId, folderId, fileId }, newest, base);
  const aside = target.newest.position > 0 || target.isNew;
  if (target.newest.content_id === content.id) return { made: false, id: target.newest.id, aside };
  const version = {
    fileId,
    contentId: content.id,
    note: '',
    uploadName: arrived.uploadName,
    by: by.id,
    kind,
    title,
    setId: await setFor(client, by, projectId, target, kind),
  };
  const id = target.isNew
    ? await onNewLine(client, by, target.newest, version)
    : await appendVersion(client, target.newest, version);
  await tell(client, { kind: 'version', file: fileId, project: projectId });
  const subject = `${file.name} v${target.newest.number + 1}`;
  await record(client, [{ act: 'saved', by, subject, projectId, fileId, versions: [id] }]);
  return { made: true, id, aside };
}

interface Target {
  /** What the save goes on from. */
  readonly newest: Newest;
  /** A line of its own begins there. */
  readonly isNew: boolean;
}

async function targetFor(
  client: Client,
  by: Person,
  place: { readonly projectId: string; readonly folderId: string | null; readonly fileId: string },
  main: Newest,
  base: string | undefined,
): Promise<Target> {
  const { fileId } = place;
  const beside = base === undefined ? undefined : await newestBeside(client, fileId, base);
  // It goes on from the end of a line that is no main line, whoever began it.
  if (beside && beside.position > 0 && beside.id === base && !(await isHeldByOther(client, beside, by)))
    return { newest: beside, isNew: false };
  const isOnTop = base === undefined || base === main.id;
  if (isOnTop && (await holds(client, savesRule, place)) && !(await isHeldByOther(client, main, by)))
    return { newest: main, isNew: false };
  // A desk that knows no more than what it got goes on with its saves of that.
  const own = await ownSaves(client, fileId, by.id);
  const going = base === undefined ? own[0] : own.find((line) => line.from_id === base);
  if (going && !(await isHeldByOther(client, going, by))) return { newest: going, isNew: false };
  return { newest: await versionToGoOnFrom(client, fileId, base ?? main.id), isNew: true };
}

async function isHeldByOther(client: Client, { line_id: lineId }: Newest, by: Person): Promise<boolean> {
  const held = await heldRow(client, lineId);
  return held !== undefined && held.by_id !== by.id;
}

/** What it was made of, or what stands there now if that was swept meanwhile. */
async function versionToGoOnFrom(client: Client, fileId: string, versionId: string): Promise<Newest> {
  const there = (await standsInstead(client, fileId, versionId))?.id ?? versionId;
  const row = await versionRow(there, client).catch(() => undefined);
  if (row?.file_id !== fileId) throw notFound('version');
  return { id: row.id, number: row.number, content_id: row.content_id, line_id: row.line_id, position: 0 };
}

async function onNewLine(client: Client, by: Person, from: Newest, version: NewVersion): Promise<string> {
  const { fileId } = version;
  const lineId = await insertLine(
    client,
    fileId,
    await freeName(client, fileId, by.name),
    await nextPosition(client, fileId),
    from.id,
  );
  await markSavesLine(client, lineId, by.id);
  return addVersion(client, lineId, from.number + 1, [{ id: from.id, role: 'follows' }], version);
}

async function freeName(client: Client, fileId: string, name: string): Promise<string> {
  for (let n = 1; ; n++) {
    const tried = n === 1 ? `saves of ${name}` : `saves of ${name}, ${n}`;
    if (!(await hasLineCalled(client, fileId, tried, null))) return tried;
  }
}

const asSaved = ({ kind, made_at: at, by: person, title }: SaveRow): SavedVersion => ({
  kind,
  at: at.getTime(),
  person,
  title,
});

/** Saves of one sitting are one set. */
async function setFor(
  client: Client,
  by: Person,
  projectId: string,
  { newest, isNew }: Target,
  kind: 'autosave' | 'backup',
): Promise<string> {
  const [before] = isNew ? [] : await lastOfLine(client, newest.line_id, newest.number, 1);
  const now: SavedVersion = { kind, at: Date.now(), person: by.id, title: null };
  if (before && inSittings([asSaved(before), now], await pauseIn(client, projectId)).length === 1) return before.set_id;
  return (await newSet(client, { projectId, kind: 'saves', note: '', by: by.id })).id;
}

/** Makes what was there before the sitting of a save the newest of its line again. Nothing is removed. */
export async function leave(by: Person, versionId: string, note: string): Promise<Version> {
  await permit(by, 'check out', await permitVersion(by, versionId), DOING);
  const asked = await versionRow(versionId);
  if (asked.kind !== 'autosave')
    throw new Problem(
      409,
      'no-sitting',
      `v${asked.number} was checked in, not saved as one went. Bring an older version forward instead.`,
    );
  const made = await transaction(async (client) => {
    const { file } = await lockFile(client, asked.file_id);
    const place = { projectId: file.project_id, folderId: file.folder_id };
    await permit(by, 'check out', place, DOING, client);
    const newest = await newestBeside(client, asked.file_id, asked.id);
    if (!newest) throw new Problem(409, 'line-closed', `“${asked.line}” is closed. Open it first.`);
    if (await isHeldByOther(client, newest, by))
      throw new Problem(409, 'checked-out', `“${file.name}” is checked out by somebody else.`);
    const first = await firstOfSitting(client, asked, await pauseIn(client, file.project_id));
    // What somebody else saved is brought back by those who may do that.
    if (first.by !== by.id) await permit(by, 'bring forward', place, undefined, client);
    const before = await followedBy(client, first.id);
    if (!before)
      throw new Problem(
        409,
        'no-version-before',
        `v${first.number} is the first version: there is nothing to go back to.`,
      );
    const source = await versionRow(before.id, client);
    if (source.content_id === newest.content_id)
      throw new Problem(
        409,
        'already-newest',
        `It is as it was when the sitting began, in v${before.number}, already.`,
      );
    const why = note || `Back to how it was when the sitting began, in v${before.number}.`;
    return makeNewestAgain(
      client,
      by,
      { file, newest, source },
      {
        act: 'left without keeping',
        note: why,
        reason: why,
        subject: `${file.name}, from v${first.number} on, as v${newest.number + 1}`,
      },
    );
  });
  return versionOf(await versionRow(made));
}

async function firstOfSitting(
  client: Client,
  { line_id: line, number }: Pick<VersionRow, 'line_id' | 'number'>,
  pause: number,
): Promise<SaveRow> {
  const rows = (await lastOfLine(client, line, number, LONGEST_SITTING)).reverse();
  const saved = rows.map((row) => ({ ...asSaved(row), row }));
  const sitting = inSittings(saved, pause).at(-1);
  const first = sitting?.[0]?.row;
  if (!first) throw notFound('version');
  return first;
}
