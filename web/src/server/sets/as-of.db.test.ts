import type { FileEntry, Person } from '../../contract/api.ts';
import { checkOut } from '../checkouts/service.ts';
import { makeFolder, makeProject } from '../projects/service.ts';
import { readWhole } from '../store/reader.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { listVersions } from '../versions/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { lineage } from '../lines/service.ts';
import { asOf, bringForwardTo } from './as-of.ts';
import { branchProject } from './branch-project.ts';
import { bringBack, deleteFile, listDeleted } from './deleting.ts';
import { listSets } from './sets.ts';
import { titleState } from './titled-state.ts';

withTestDatabase();

let ines: Person;
let tobias: Person;
let projectId: string;
let plan: FileEntry;
let signs: FileEntry;
let folderId: string;
let n = 0;
const day = (d: number): Date => new Date(Date.UTC(2026, 9, d, 12));
const at = (d: number): string => new Date(Date.UTC(2026, 9, d, 13)).toISOString();
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  tobias = await makeTestPerson('editor', 'Tobias');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
  folderId = (await makeFolder(ines, projectId, null, 'Graphics')).id;
  const make = async (name: string, folder: string | null, d: number): Promise<FileEntry> =>
    (await makeFile(ines, projectId, folder, name, incoming(name, `${name} of day ${d}`), { note: '', at: day(d) }))
      .file;
  plan = await make('plan.txt', null, 1);
  signs = await make('signs.txt', folderId, 2);
  await checkIn(ines, plan.id, incoming('plan.txt', 'plan of day 3'), { note: '', at: day(3) });
  await checkIn(ines, signs.id, incoming('signs.txt', 'signs of day 4'), { note: '', at: day(4) });
});

const newest = async (file: Pick<FileEntry, 'id'>): Promise<string> => {
  const versions = await listVersions(ines, file.id);
  return (await readWhole((await versionRow(versions.at(-1)?.id ?? '')).content_id)).toString();
};

test('each file as it was at a moment, with what is the newest now', async () => {
  const files = (await asOf(ines, projectId, at(2))).files.map((f) => [
    f.path,
    f.name,
    f.then?.number,
    f.now.number,
    f.same,
  ]);
  expect(files).toEqual([
    ['', 'plan.txt', 1, 2, false],
    ['Graphics', 'signs.txt', 1, 2, false],
  ]);
  expect((await asOf(ines, projectId, at(3))).files.map((f) => f.same)).toEqual([true, false]);
  expect((await asOf(ines, projectId, at(1))).files.find((f) => f.name === 'signs.txt')?.then).toBeNull();
  expect((await asOf(ines, projectId, at(2), folderId)).files.map((f) => f.name)).toEqual(['signs.txt']);
});

test('the whole of it is brought forward in one set; what came later stays', async () => {
  const { sentence, files } = await bringForwardTo(ines, projectId, { at: at(2), note: 'before the storm' });
  expect([files, sentence]).toEqual([2, expect.stringContaining('2 files are as they were then')]);
  expect([await newest(plan), await newest(signs)]).toEqual(['plan.txt of day 1', 'signs.txt of day 2']);
  expect((await listVersions(ines, plan.id)).map((v) => v.source)).toEqual([null, null, 1]);
  const [set] = await listSets(ines, projectId, {});
  expect(set).toMatchObject({ kind: 'bring forward', note: 'Brought forward to 2026-10-02, 13:00: before the storm' });
  expect(set?.files).toHaveLength(2);
  await expect(bringForwardTo(ines, projectId, { at: at(2), note: '' })).rejects.toMatchObject({
    code: 'nothing-to-do',
  });
});

test('what others hold is named first, and nothing is done; it can be left out', async () => {
  await checkOut(tobias, [signs.id]);
  await expect(bringForwardTo(ines, projectId, { at: at(2), note: '' })).rejects.toMatchObject({
    code: 'checked-out',
    message: expect.stringContaining('signs.txt (Tobias)') as string,
  });
  expect(await newest(plan)).toBe('plan of day 3');
  await bringForwardTo(ines, projectId, { at: at(2), note: '', files: [plan.id] });
  expect([await newest(plan), await newest(signs)]).toEqual(['plan.txt of day 1', 'signs of day 4']);
});

test('what one holds oneself is brought forward, whatever others of the same name hold', async () => {
  const namesake = await makeTestPerson('editor', 'Ines');
  await checkOut(ines, [signs.id]);
  await expect(bringForwardTo(namesake, projectId, { at: at(2), note: '' })).rejects.toMatchObject({
    code: 'checked-out',
  });
  expect((await bringForwardTo(ines, projectId, { at: at(2), note: '' })).files).toBe(2);
});

test('a file that was deleted since is told, and left as it is', async () => {
  await deleteFile(ines, plan.id, 'no longer needed');
  expect((await asOf(ines, projectId, at(2))).files.find((f) => f.name === 'plan.txt')).toMatchObject({
    deleted: true,
  });
  expect((await bringForwardTo(ines, projectId, { at: at(2), note: '' })).files).toBe(1);
});

test('what came later is deleted in the same set where one wants that, and can be brought back', async () => {
  const name = 'later.txt';
  await makeFile(ines, projectId, null, name, incoming(name, 'later'), { note: '', at: day(5) });
  const before = (await asOf(ines, projectId, at(2))).files.filter((f) => f.then === null);
  expect(before.map((f) => f.name)).toEqual(['later.txt']);
  const { sentence } = await bringForwardTo(ines, projectId, { at: at(2), deleteLater: true });
  expect(sentence).toContain('one that came later is deleted');
  expect((await asOf(ines, projectId, at(2))).files.map((f) => f.name)).not.toContain('later.txt');
  const deleted = await listDeleted(ines, projectId);
  expect(deleted.map((f) => f.name)).toEqual(['later.txt']);
  await bringBack(ines, before[0]?.fileId ?? '', {});
  expect((await asOf(ines, projectId, at(2))).files.map((f) => f.name)).toContain('later.txt');
});

test('a project as it was becomes one of its own, with its folders; each file knows where it comes from', async () => {
  const name = `Before the storm ${Date.now()}`;
  const made = await branchProject(ines, projectId, { at: at(2), name, reason: 'to try the other quay' });
  expect(made.files).toBe(2);
  const { files } = await asOf(ines, made.projectId, new Date().toISOString());
  expect(files.map((f) => [f.name, f.path])).toEqual(
    (await asOf(ines, projectId, at(2))).files.filter((f) => f.then).map((f) => [f.name, f.path]),
  );
  const copy = files.find((f) => f.name === 'plan.txt');
  expect(await newest({ id: copy?.fileId ?? '' })).toBe('plan.txt of day 1');
  expect((await lineage(ines, copy?.fileId ?? '')).from).toMatchObject({ fileId: plan.id, number: 1 });
  expect(await newest(plan)).toBe('plan of day 3');
  await expect(branchProject(tobias, projectId, { at: at(2), name: 'x', reason: '' })).rejects.toMatchObject({
    code: 'not-allowed',
  });
  await expect(branchProject(ines, projectId, { at: at(2), name, reason: '' })).rejects.toMatchObject({
    code: 'name-taken',
  });
});

test('who may not see the past sees nothing of it', async () => {
  const guest = await makeTestPerson('guest');
  await expect(asOf(guest, projectId, at(2))).rejects.toMatchObject({ code: 'not-allowed' });
});

const titlesOf = async (file: Pick<FileEntry, 'id'>): Promise<(string | null)[]> =>
  (await listVersions(ines, file.id)).map(({ title }) => title);

test('the state that a place is in gets a title: the newest of each file, but for those that have one', async () => {
  const words = { title: 'As given to the harbour office', description: '' };
  const inFolder = await titleState(ines, projectId, { ...words, folder: folderId, title: 'Graphics agreed' });
  expect(inFolder).toMatchObject({ titled: 1, files: 1 });
  expect([await titlesOf(plan), await titlesOf(signs)]).toEqual([
    [null, null],
    [null, 'Graphics agreed'],
  ]);
  const all = await titleState(ines, projectId, words);
  expect(all.sentence).toBe(
    'The newest version of one file is called “As given to the harbour office” now, and stays. One keeps the title that it has.',
  );
  expect([await titlesOf(plan), await titlesOf(signs)]).toEqual([
    [null, 'As given to the harbour office'],
    [null, 'Graphics agreed'],
  ]);
  expect(await titleState(ines, projectId, words)).toMatchObject({ titled: 0, files: 2 });
});

test('who may not work on files gives no titles to their state', async () => {
  const reader = await makeTestPerson('reader');
  await expect(titleState(reader, projectId, { title: 'Mine', description: '' })).rejects.toMatchObject({
    code: 'not-allowed',
  });
  expect(await titlesOf(plan)).toEqual([null, null]);
});
