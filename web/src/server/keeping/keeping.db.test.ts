import { KEEP_ALL, type KeepingRule } from '@ovrel/core';
import type { FileEntry, Person, Version } from '../../contract/api.ts';
import { addComment } from '../comments/service.ts';
import { db } from '../db/pool.ts';
import { proveLedger, readLedger } from '../ledger/ledger.ts';
import { proveVersions } from '../ledger/seals.ts';
import { runWaitingJobs } from '../jobs/run.ts';
import { savesRule, setRule } from '../projects/rules.ts';
import { getFile, makeFolder } from '../projects/service.ts';
import { save } from '../saving/service.ts';
import { collect } from '../store/collect.ts';
import { readWhole } from '../store/reader.ts';
import { incoming, withTestDatabase } from '../testing/database.ts';
import { withLanding } from '../testing/landing.ts';
import { checkIn, checkInSet } from '../versions/checkin.ts';
import { fetched } from '../versions/download.ts';
import { versionRow } from '../versions/rows.ts';
import { bringForward, listVersions } from '../versions/service.ts';
import { titleVersion } from '../versions/titles.ts';
import {
  cancelSweep,
  fateOf,
  getKeeping,
  goingIn,
  goingOfFile,
  goingOfMine,
  setKeeping,
  startSweep,
  sweepStands,
} from './service.ts';
import { sweep } from './sweep.ts';
import { tryKeeping } from './trial.ts';

withTestDatabase();

const DAY = 86_400_000;
const dayThenNone: KeepingRule = { ...KEEP_ALL, autosave: [{ one: 'version', days: 1 }] };
const tell = async (): Promise<void> => undefined;

const landing = withLanding('method.txt', (round) => `method.txt ${round}`);
let ines: Person;
let tobias: Person;
let projectId: string;
let file: FileEntry;
let n: number;
beforeEach(async () => {
  ({ ines, tobias, projectId, file, round: n } = landing);
  await setRule(ines, savesRule, { what: 'project', id: projectId }, true);
});

/** Saves made so many days ago. */
async function saved(of: FileEntry, by: Person, ...daysAgo: readonly number[]): Promise<Version[]> {
  const versions: Version[] = [];
  for (const days of daysAgo) {
    const text = `${of.name} ${n}, ${days} days ago by ${by.name}`;
    const { version } = await save(by, of.id, incoming(of.name, text), {
      key: undefined,
      base: undefined,
      title: undefined,
    });
    await db().query('update version set made_at = $2 where id = $1', [version.id, new Date(Date.now() - days * DAY)]);
    versions.push(version);
  }
  return versions;
}
const numbers = async (of: FileEntry = file): Promise<number[]> =>
  (await listVersions(ines, of.id)).map(({ number }) => number);
const say = (rule: KeepingRule | null, where: { folder?: string; content?: 'text' | 'drawing' } = {}) =>
  setKeeping(ines, projectId, { folder: undefined, content: undefined, ...where, rule });

test('where nothing is said all is kept; the nearest place decides, and there what is said of a kind', async () => {
  const folder = await makeFolder(ines, projectId, null, 'Texts');
  expect(await getKeeping(ines, projectId, {})).toMatchObject({ rule: KEEP_ALL, said: false, from: null });
  const none: KeepingRule = { ...KEEP_ALL, backup: [] };
  await say(dayThenNone);
  await say(none, { content: 'text' });
  expect((await getKeeping(ines, projectId, { content: 'text' })).rule).toEqual(none);
  expect(await getKeeping(tobias, projectId, { folder: folder.id, content: 'drawing' })).toMatchObject({
    rule: dayThenNone,
    said: false,
    from: { folder: null, content: null, by: 'Ines' },
    mayChange: false,
  });
  await say(KEEP_ALL, { folder: folder.id });
  expect((await getKeeping(ines, projectId, { folder: folder.id, content: 'text' })).rule).toEqual(KEEP_ALL);
  await say(null, { content: 'text' });
  expect((await getKeeping(ines, projectId, { content: 'text' })).rule).toEqual(dayThenNone);
  await expect(
    setKeeping(tobias, projectId, { folder: undefined, content: undefined, rule: null }),
  ).rejects.toMatchObject({ code: 'not-allowed' });
});

test('a sweep removes what the rule lets go, and its bytes; the rest goes on from what stays, and the ledger knows', async () => {
  const [, second, third] = await saved(file, tobias, 9, 8, 7);
  const last = (await checkIn(ines, file.id, incoming('method.txt', `final ${n}`), { note: 'final' })).version;
  const { content_id: content } = await versionRow(second?.id ?? '');
  await say(dayThenNone);
  expect(await goingOfFile(ines, file.id)).toMatchObject({ going: [{}, { versionId: second?.id }, {}] });
  expect(await sweep(projectId, tell)).toMatchObject({ files: 1, versions: 3 });
  expect(await numbers()).toEqual([1, 5]);
  const left = await listVersions(ines, file.id);
  expect(left.at(-1)).toMatchObject({ id: last.id, parentId: left[0]?.id });
  await collect(undefined, 0);
  await expect(readWhole(content)).rejects.toThrow();
  const { entries } = await readLedger(ines, { project: projectId });
  const [entry] = entries;
  expect(entry).toMatchObject({
    act: 'swept',
    by: null,
    subject: 'method.txt, 3 versions: v2, v3, v4',
    reason: 'Autosaves: all until a day old, then none.',
  });
  expect((entry as unknown as { erased: { id: string; content: string }[] }).erased[2]).toMatchObject({
    id: third?.id,
  });
  expect((await proveLedger()).broken).toBeUndefined();
  expect((await proveVersions(db())).wrong).toEqual([]);
  expect(await sweep(projectId, tell)).toEqual({ files: 0, versions: 0, bytes: 0 });
});

test('what something stands on is not swept, and why is said', async () => {
  const [titled, commented, forward, going] = await saved(file, tobias, 9, 8, 7, 6);
  await titleVersion(ines, titled?.id ?? '', { title: 'For the council' });
  await addComment(ines, file.id, { version: commented?.id ?? '', body: 'Really?' });
  await bringForward(ines, forward?.id ?? '', 'as it was');
  await say(dayThenNone);
  expect((await sweep(projectId, tell)).versions).toBe(1);
  expect(await numbers()).toEqual([1, 2, 3, 4, 6]);
  const holds = [titled, commented, forward].map(async (version) => (await fateOf(ines, version?.id ?? '')).holds);
  expect(await Promise.all(holds)).toEqual([['keeper'], ['commented'], ['gone on from']]);
  await expect(fateOf(ines, going?.id ?? '')).rejects.toMatchObject({ code: 'not-found' });
});

test('the database itself refuses to let go what somebody says something of in the same moment', async () => {
  const [old] = await saved(file, tobias, 9, 0);
  await addComment(ines, file.id, { version: old?.id ?? '', body: 'Wait' });
  const { deleteSwept } = await import('./rows.ts');
  const client = await db().connect();
  await expect(deleteSwept(client, [old?.id ?? ''])).rejects.toThrow(/comment/);
  client.release();
  expect(await numbers()).toEqual([1, 2, 3]);
});

test('what goes in the next days is told, with when, to whoever made it; a title keeps it', async () => {
  const [soon, later] = await saved(file, tobias, 3, 0.5, 0);
  await say({ ...KEEP_ALL, autosave: [{ one: 'version', days: 5 }] });
  const list = await goingIn(ines, projectId, 3);
  expect(list).toMatchObject({
    total: 1,
    versions: [{ versionId: soon?.id, file: 'method.txt', by: { name: 'Tobias' } }],
  });
  expect(Date.parse(list.versions[0]?.goes ?? '') - Date.now()).toBeCloseTo(2 * DAY, -5);
  expect((await goingOfMine(tobias, 7)).versions.map(({ versionId }) => versionId)).toEqual([soon?.id, later?.id]);
  expect((await goingOfMine(ines, 7)).total).toBe(0);
  expect(await fateOf(tobias, soon?.id ?? '')).toMatchObject({
    rule: 'all until 5 days old, then none',
    mayKeep: true,
  });
  await titleVersion(tobias, soon?.id ?? '', { title: 'Keep me' });
  expect((await goingIn(ines, projectId, 3)).total).toBe(0);
});

test('a rule tried on the past says what would have gone, what somebody went back to all the same, and proposes one', async () => {
  const [first, second] = await saved(file, tobias, 40, 30, 20, 10);
  await bringForward(ines, first?.id ?? '', 'as it was');
  await fetched(tobias, second?.id ?? '');
  const tried = await tryKeeping(ines, projectId, { folder: undefined, content: undefined, rule: dayThenNone });
  expect(tried).toMatchObject({ versions: 6, gone: 4, wentBack: 2 });
  expect(tried.missed.map(({ versionId, by, how }) => [versionId, by, how])).toEqual([
    [first?.id, 'Ines', 'brought forward from'],
    [second?.id, 'Tobias', 'fetched'],
  ]);
  expect(tried.days.at(-1)!.withRule).toBeLessThan(tried.days.at(-1)!.without);
  const proposed = { folder: undefined, content: undefined, rule: tried.proposed };
  expect((await tryKeeping(ines, projectId, proposed)).missed).toEqual([]);
  expect(await numbers()).toHaveLength(6);
});

test('a rule for a folder or a kind of content is tried on that alone', async () => {
  const folder = await makeFolder(ines, projectId, null, 'Texts');
  const other = await landing.add('notes.txt', folder.id);
  await saved(file, tobias, 9, 8);
  await saved(other, tobias, 9, 8, 7);
  const asked = { content: undefined, rule: dayThenNone };
  expect(await tryKeeping(ines, projectId, { ...asked, folder: folder.id })).toMatchObject({ versions: 4, gone: 2 });
  expect(await tryKeeping(ines, projectId, { ...asked, folder: undefined, content: 'drawing' })).toMatchObject({
    versions: 0,
    gone: 0,
  });
});

test('what nearer places say stays so while a rule is tried above them', async () => {
  const folder = await makeFolder(ines, projectId, null, 'Texts');
  const other = await landing.add('notes.txt', folder.id);
  await saved(file, tobias, 9, 8);
  await saved(other, tobias, 9, 8);
  await say(KEEP_ALL, { folder: folder.id });
  const tried = await tryKeeping(ines, projectId, { folder: undefined, content: undefined, rule: dayThenNone });
  expect(tried).toMatchObject({ versions: 3, gone: 1 });
});

/** Both files checked in together, so many days ago; gives the set. */
async function together(other: FileEntry, daysAgo: number): Promise<string> {
  const both = [file, other];
  const set = await checkInSet(
    ines,
    projectId,
    both.map(({ id }) => ({ fileId: id })),
    (async function* () {
      for (const { name } of both) yield incoming(name, `${name} together ${n} ${daysAgo}`);
    })(),
    { note: 'both' },
  );
  const at = new Date(Date.now() - daysAgo * DAY);
  await db().query('update version set made_at = $2 where set_id = $1', [set.set?.id, at]);
  return set.set?.id ?? '';
}
const sizeOf = async (set: string): Promise<number> =>
  (await db().query('select 1 from version where set_id = $1', [set])).rowCount ?? 0;

test('files that were checked in together are swept together, or stay together', async () => {
  const other = await landing.add('notes.txt');
  const [held, free] = [await together(other, 30), await together(other, 20)];
  await together(other, 0);
  const { rows } = await db().query<{ id: string }>('select id from version where set_id = $1 and file_id = $2', [
    held,
    other.id,
  ]);
  await addComment(ines, other.id, { version: rows[0]?.id ?? '', body: 'Why?' });
  await say({ ...KEEP_ALL, 'check-in': [{ one: 'version', days: 5 }] });
  // Asked about one file alone, it is told the same as of both.
  const { going } = await goingOfFile(ines, file.id);
  const due = going.filter(({ goes }) => Date.parse(goes) <= Date.now()).map(({ versionId }) => versionId);
  expect(due).toHaveLength(1);
  await sweep(projectId, tell);
  expect([await sizeOf(held), await sizeOf(free)]).toEqual([2, 0]);
  for (const id of due) expect((await db().query('select 1 from swept_version where id = $1', [id])).rowCount).toBe(1);
  expect((await proveVersions(db())).wrong.map(({ fault }) => fault)).not.toContain('missing');
});

test('what was made of a version that was swept meanwhile begins where that one stood', async () => {
  const [base] = await saved(file, tobias, 9, 8, 7);
  await say(dayThenNone);
  await sweep(projectId, tell);
  const options = { key: undefined, base: base?.id, title: undefined };
  const { version, aside } = await save(tobias, file.id, incoming('method.txt', `late ${n}`), options);
  expect([aside, version.number]).toEqual([true, 2]);
  const from = await db().query('select v.number from line l join version v on v.id = l.from_id where l.id = $1', [
    version.lineId,
  ]);
  expect(from.rows).toEqual([{ number: 1 }]);
});

test('a sweep is a job that can be asked for, told of and cancelled', async () => {
  await saved(file, tobias, 9, 8);
  await say(dayThenNone);
  await expect(startSweep(tobias, projectId)).rejects.toMatchObject({ code: 'not-allowed' });
  await startSweep(ines, projectId);
  await expect(startSweep(ines, projectId)).rejects.toMatchObject({ code: 'running' });
  expect((await sweepStands(ines, projectId)).running).not.toBeNull();
  await cancelSweep(ines, projectId);
  await expect(cancelSweep(ines, projectId)).rejects.toMatchObject({ code: 'ended' });
  expect(await numbers()).toEqual([1, 2, 3]);
  await startSweep(ines, projectId);
  await runWaitingJobs(['sweep']);
  const stands = await sweepStands(ines, projectId);
  expect(stands).toMatchObject({ running: null, last: { report: { files: 1, versions: 1 } }, due: { total: 0 } });
  expect(await numbers()).toEqual([1, 3]);
  expect((await getFile(ines, file.id)).newest.number).toBe(3);
});
