import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { sketchOf } from '@ovrel/core';
import type { FileEntry, Person } from '../../contract/api.ts';
import { runWaitingJobs } from '../jobs/run.ts';
import { setAccess } from '../people/granting.ts';
import { changeFile, makeFolder, makeProject } from '../projects/service.ts';
import { deleteFile } from '../sets/deleting.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile } from '../versions/checkin.ts';
import { listVersions } from '../versions/service.ts';
import { knownVersions, resembling } from './resembling.ts';
import { addReference, archiveWithReferences, deskFiles, referencesOfVersion, removeReference } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let lead: Person;
let ines: Person;
let projectId: string;
let plans: string;
let photos: string;
let n = 0;
beforeEach(async () => {
  [lead, ines] = [await makeTestPerson('lead'), await makeTestPerson('editor', 'Ines')];
  projectId = (await makeProject(lead, `Landing ${++n}`)).id;
  plans = (await makeFolder(lead, projectId, null, 'Plans')).id;
  photos = (await makeFolder(lead, projectId, plans, 'photos')).id;
});
const svg = (...targets: string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg">${targets.map((t) => `<image href="${t}"/>`).join('')}</svg>`;
const add = async (name: string, folder: string | null, text: string): Promise<FileEntry> =>
  (await makeFile(ines, projectId, folder, undefined, incoming(name, text), { note: '' })).file;
const newest = async (file: FileEntry): Promise<string> => (await listVersions(ines, file.id)).at(-1)!.id;

test('a version knows what it needed and at which version, also after that has changed, moved or been renamed', async () => {
  const quay = await add('quay.txt', photos, 'one');
  const plan = await add(
    'plan.svg',
    plans,
    svg('photos/quay.txt', 'photos/lost.png', 'https://quillmere.example/x.png'),
  );
  await runWaitingJobs();
  await checkIn(ines, quay.id, incoming('quay.txt', 'two'), { note: '' });
  await changeFile(ines, quay.id, { name: 'quay wall.txt', folderId: null });
  const v1 = await newest(plan);
  expect((await referencesOfVersion(ines, v1)).needs).toMatchObject([
    {
      target: 'photos/quay.txt',
      found: 'path',
      then: { number: 1 },
      file: { path: 'quay wall.txt', newest: 2, deleted: false },
    },
    { target: 'photos/lost.png', found: 'missing', file: null, then: null },
    { target: 'https://quillmere.example/x.png', found: 'web', file: null },
  ]);
  // A version that is saved now no longer finds it at its path.
  await checkIn(ines, plan.id, incoming('plan.svg', `${svg('photos/quay.txt')}\n`), { note: '' });
  expect((await referencesOfVersion(ines, await newest(plan))).needs).toMatchObject([{ found: 'missing' }]);
  expect((await referencesOfVersion(ines, await newest(quay))).neededBy).toEqual([]);
});

test('files of one set see one another, whichever comes first', async () => {
  const plan = await add('plan.svg', plans, svg('photos/quay.txt'));
  const files = async function* () {
    yield incoming('plan.svg', `${svg('photos/quay.txt')}\n`);
    yield incoming('quay.txt', 'one');
  };
  await checkInSet(ines, projectId, [{ fileId: plan.id }, { name: 'quay.txt', folderId: photos }], files(), {
    note: 'both',
  });
  expect((await referencesOfVersion(ines, await newest(plan))).needs).toMatchObject([
    { found: 'path', then: { number: 1 }, file: { name: 'quay.txt' } },
  ]);
});

test('needed by counts the newest versions only; a circle is no trouble', async () => {
  const a = await add('a.svg', null, svg('b.svg'));
  const b = await add('b.svg', null, svg('a.svg'));
  // When a.svg was saved there was no b.svg yet.
  expect((await referencesOfVersion(ines, await newest(a))).needs).toMatchObject([{ found: 'path', then: null }]);
  expect((await referencesOfVersion(ines, await newest(b))).neededBy).toMatchObject([{ file: { name: 'a.svg' } }]);
  expect((await referencesOfVersion(ines, await newest(a))).neededBy).toMatchObject([{ file: { name: 'b.svg' } }]);
  expect((await archiveWithReferences(ines, await newest(a), 'now')).entries.map((e) => e.path)).toEqual([
    'a.svg',
    'b.svg',
  ]);
  await checkIn(ines, b.id, incoming('b.svg', svg()), { note: '' });
  await runWaitingJobs();
  expect((await referencesOfVersion(ines, await newest(a))).neededBy).toEqual([]);
});

test('a ZIP holds what a version needs, as it was or as it is, where the file looks for it', async () => {
  const quay = await add('quay.txt', photos, 'one');
  const logo = await add('logo.svg', null, svg());
  const plan = await add('plan.svg', plans, svg('photos/quay.txt', '../stamps/logo.svg'));
  await runWaitingJobs();
  await checkIn(ines, quay.id, incoming('quay.txt', 'two, and longer'), { note: '' });
  const v1 = await newest(plan);
  const then = await archiveWithReferences(ines, v1, 'then');
  const now = await archiveWithReferences(ines, v1, 'now');
  expect(then.fileName).toBe('plan v1 with references.zip');
  expect(then.entries.map((e) => [e.path, e.size]).slice(0, 2)).toEqual([
    ['Plans/plan.svg', svg('photos/quay.txt', '../stamps/logo.svg').length],
    ['Plans/photos/quay.txt', 3],
  ]);
  expect(now.entries[1]).toMatchObject({ path: 'Plans/photos/quay.txt', size: 15 });
  // Found by its name alone, it is put where the drawing looks for it.
  expect(then.entries[2]).toMatchObject({ path: 'stamps/logo.svg' });
  expect((await referencesOfVersion(ines, v1)).needs[1]).toMatchObject({ found: 'name', file: { id: logo.id } });
});

test('references by hand are added, said both ways, and removed; a deleted file is said', async () => {
  const plan = await add('plan.txt', plans, 'x');
  const model = await add('gangway.txt', null, 'y');
  await addReference(ines, plan.id, model.id, 'drawing of');
  await expect(addReference(ines, plan.id, plan.id)).rejects.toThrow('A file does not need itself.');
  expect((await referencesOfVersion(ines, await newest(plan))).needs).toMatchObject([
    { found: 'by hand', says: 'drawing of', file: { name: 'gangway.txt' } },
  ]);
  expect((await referencesOfVersion(ines, await newest(model))).neededBy).toMatchObject([
    { file: { name: 'plan.txt' }, says: 'drawing of', byHand: true },
  ]);
  await deleteFile(ines, model.id, 'why');
  expect((await referencesOfVersion(ines, await newest(plan))).needs[0]!.file).toMatchObject({ deleted: true });
  await removeReference(ines, plan.id, model.id);
  expect((await referencesOfVersion(ines, await newest(plan))).needs).toEqual([]);
  await expect(removeReference(ines, plan.id, model.id)).rejects.toMatchObject({ status: 404 });
});

test('two thousand references are recorded', async () => {
  await add('p7.txt', null, 'x');
  const plan = await add('big.svg', null, svg(...Array.from({ length: 2000 }, (_, i) => `p${i}.txt`)));
  const { needs } = await referencesOfVersion(ines, await newest(plan));
  expect(needs).toHaveLength(2000);
  expect(needs.filter((r) => r.found === 'path').map((r) => r.file!.name)).toEqual(['p7.txt']);
});

test('a desk learns of every file with its path and hash', async () => {
  await add('quay.txt', photos, 'one');
  const plan = await add('plan.svg', plans, svg());
  const gone = await add('gone.txt', null, 'x');
  await deleteFile(ines, gone.id, 'why');
  expect(await deskFiles(ines, projectId)).toMatchObject([
    { path: 'Plans/photos/quay.txt', newest: { number: 1, size: 3 }, holder: null },
    { path: 'Plans/plan.svg', newest: { sha256: plan.newest.sha256 } },
  ]);
});

test('a file of another name is known by what it holds, among those that the person may see', async () => {
  const lines = (n: number, seed: number): string =>
    Array.from(
      { length: n },
      (_, i) => `<path d="M ${(i * 7919 + seed) % 9973} ${(i * 104_729) % 991}" id="s${seed}-${i}"/>`,
    ).join('\n');
  const fence = await add('fence.svg', plans, lines(300, 1));
  await add('other.svg', plans, lines(300, 2));
  const sketch = [...sketchOf(new TextEncoder().encode(`${lines(290, 1)}\n${lines(10, 5)}`))];
  const nothing = [...sketchOf(new TextEncoder().encode(lines(300, 9)))];
  const found = await resembling(ines, projectId, [
    { path: 'railing.svg', sketch },
    { path: 'new.svg', sketch: nothing },
  ]);
  expect(found).toMatchObject([{ path: 'railing.svg', fileId: fence.id }]);
  expect(found[0]!.likeness).toBeGreaterThan(0.8);
  await setAccess(lead, { projectId, folderId: plans }, ines.id, []);
  expect(await resembling(ines, projectId, [{ path: 'railing.svg', sketch }])).toEqual([]);
});

test('contents on a desk are known as the versions that they are, and nothing else is', async () => {
  const hash = (text: string): string => createHash('sha256').update(text).digest('hex');
  const quay = await add('quay.txt', photos, 'one');
  const other = await add('other.txt', photos, 'elsewhere');
  await checkIn(ines, quay.id, incoming('quay.txt', 'two'), { note: '' });
  await checkIn(ines, quay.id, incoming('quay.txt', 'one'), { note: 'back' });
  const ask = (by: Person, text: string, file = quay) =>
    knownVersions(by, projectId, [{ fileId: file.id, sha256: hash(text) }]);
  // Twice the same content: the later version counts.
  expect(await ask(ines, 'one')).toMatchObject([{ fileId: quay.id, number: 3 }]);
  expect(await ask(ines, 'two')).toMatchObject([{ number: 2 }]);
  expect(await ask(ines, 'mine')).toEqual([]);
  // A content of another file is no version of this one.
  expect(await ask(ines, 'elsewhere')).toEqual([]);
  expect(await ask(ines, 'elsewhere', other)).toMatchObject([{ number: 1 }]);
  await setAccess(lead, { projectId, folderId: photos }, ines.id, ['see']);
  expect(await ask(ines, 'two')).toEqual([]);
});
