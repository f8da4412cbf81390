/** Several people change the same things at the same moment, on connections of their own. */
import { join } from 'node:path';
import type { FileEntry, Person } from '../../contract/api.ts';
import { changeFile, changeFolder, contentsOf, getFile, makeFolder, makeProject } from '../projects/service.ts';
import { bringBack, deleteFile } from '../sets/deleting.ts';
import { listSets } from '../sets/sets.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile, type Incoming } from './checkin.ts';
import { bringForward, listVersions } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let lead: Person;
let projectId: string;
let elsewhere: string;
let n = 0;
beforeEach(async () => {
  lead = await makeTestPerson('lead');
  projectId = (await makeProject(lead, `Landing ${++n}`)).id;
  elsewhere = (await makeProject(lead, `Elsewhere ${n}`)).id;
});
const add = async (name: string): Promise<FileEntry> =>
  (await makeFile(lead, projectId, null, undefined, incoming(name, `first ${name}`), { note: '' })).file;

/** An upload that stands still until it is let go on. */
function halting(name: string): { sent: Incoming; begun: Promise<void>; goOn: () => void } {
  const begun = Promise.withResolvers<undefined>();
  const going = Promise.withResolvers<undefined>();
  const bytes = (async function* () {
    yield new TextEncoder().encode('half ');
    begun.resolve(undefined);
    await going.promise;
    yield new TextEncoder().encode('whole');
  })();
  return { sent: { name, bytes }, begun: begun.promise, goOn: () => going.resolve(undefined) };
}

test('a file that is moved while its check-in arrives has its set where it lies then', async () => {
  const file = await add('plan.txt');
  const { sent, begun, goOn } = halting('plan.txt');
  const landing = checkIn(lead, file.id, sent, { note: 'the stairs' });
  await begun;
  await changeFile(lead, file.id, { projectId: elsewhere });
  goOn();
  const { version } = await landing;
  expect(version.number).toBe(2);
  expect((await listSets(lead, elsewhere, {})).map((s) => s.note)).toContain('the stairs');
  expect((await listSets(lead, projectId, {})).map((s) => s.note)).not.toContain('the stairs');
});

test('a file that is deleted while its check-in arrives takes no version', async () => {
  const file = await add('gone.txt');
  const { sent, begun, goOn } = halting('gone.txt');
  const landing = checkIn(lead, file.id, sent, { note: '' });
  await begun;
  await deleteFile(lead, file.id, 'not needed');
  goOn();
  await expect(landing).rejects.toThrow(/deleted/);
});

test('a new name and a new place given at once are both kept', async () => {
  const folder = await makeFolder(lead, projectId, null, 'Steel');
  for (let round = 0; round < 5; round++) {
    const file = await add(`beam ${round}.txt`);
    await Promise.all([
      changeFile(lead, file.id, { name: `girder ${round}.txt` }),
      changeFile(lead, file.id, { folderId: folder.id }),
    ]);
    expect(await getFile(lead, file.id)).toMatchObject({ name: `girder ${round}.txt`, folderId: folder.id });
  }
});

test('so they are for folders', async () => {
  const outer = await makeFolder(lead, projectId, null, 'Outer');
  for (let round = 0; round < 5; round++) {
    const inner = await makeFolder(lead, projectId, null, `Inner ${round}`);
    await Promise.all([
      changeFolder(lead, inner.id, { name: `Renamed ${round}` }),
      changeFolder(lead, inner.id, { parentId: outer.id }),
    ]);
    const { folders } = await contentsOf(lead, projectId, outer.id);
    expect(folders.map((f) => f.name)).toContain(`Renamed ${round}`);
  }
});

test('two folders that are moved into one another at once do not both vanish', async () => {
  const one = await makeFolder(lead, projectId, null, 'One');
  const two = await makeFolder(lead, projectId, null, 'Two');
  const moves = await Promise.allSettled([
    changeFolder(lead, one.id, { parentId: two.id }),
    changeFolder(lead, two.id, { parentId: one.id }),
  ]);
  expect(moves.map((m) => m.status).sort()).toEqual(['fulfilled', 'rejected']);
});

test('thirty files are brought back at once, more than there are connections', async () => {
  const files: FileEntry[] = [];
  for (let k = 0; k < 30; k++) files.push(await add(`sheet ${k}.txt`));
  for (const file of files) await deleteFile(lead, file.id, '');
  await Promise.all(files.map((file) => bringBack(lead, file.id, {})));
  const there = await Promise.all(files.map((file) => getFile(lead, file.id)));
  expect(there.every((file) => file.deletedIn === null)).toBe(true);
});

test('versions brought forward at once are numbered one after the other, without gaps', async () => {
  const file = await add('signs.txt');
  for (const text of ['second', 'third', 'fourth'])
    await checkIn(lead, file.id, incoming('signs.txt', text), { note: '' });
  const versions = await listVersions(lead, file.id);
  await Promise.all(versions.slice(0, 3).map((v) => bringForward(lead, v.id, '')));
  const after = await listVersions(lead, file.id);
  expect(after.map((v) => v.number)).toEqual([1, 2, 3, 4, 5, 6, 7]);
  expect(after.slice(4).map((v) => v.parentId)).toEqual(after.slice(3, 6).map((v) => v.id));
});
