/** Several people change the same things at the same moment, on connections of their own. */
import { db } from '../db/pool.ts';
import { join } from 'node:path';
import type { FileEntry, Person } from '../../contract/api.ts';
import { changeFile, changeFolder, contentsOf, getFile, makeFolder, makeProject } from '../projects/service.ts';
import { withOrigin } from '../ledger/origin.ts';
import { projectRoles } from '../../contract/access.ts';
import { setAccess } from '../people/granting.ts';
import { makePerson } from '../people/managing.ts';
import { callerOf, signIn, signOut } from '../people/service.ts';
import { makeToken, revokeToken } from '../people/tokens.ts';
import { bringBack, deleteFile } from '../sets/deleting.ts';
import { listSets } from '../sets/sets.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile, type Incoming } from './checkin.ts';
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

async function* only(sent: Incoming): AsyncGenerator<Incoming> {
  yield sent;
}

/** Somebody with a session of their own. */
async function signedIn(name: string): Promise<{ token: string; person: Person }> {
  const administrator = await makeTestPerson('administrator');
  const email = `${name.toLowerCase()}-${n}@quillmere.example`;
  const password = 'a long enough password';
  const { id } = await makePerson(administrator, { name, email, password, role: 'editor' });
  await db().query('update person set password_is_temporary = false where id = $1', [id]);
  return signIn(email, password);
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

test('rights that are withdrawn while a check-in arrives are gone when it lands, for one file, a new one and a set', async () => {
  const ines = await makeTestPerson('editor', 'Ines');
  const file = await add('closed.txt');
  const into = { projectId, folderId: null };
  const ways: ((sent: Incoming) => Promise<unknown>)[] = [
    (sent) => checkIn(ines, file.id, sent, { note: '' }),
    (sent) => makeFile(ines, projectId, null, undefined, sent, { note: '' }),
    (sent) => checkInSet(ines, projectId, [{ fileId: file.id }], only(sent), { note: '' }),
  ];
  for (const send of ways) {
    await setAccess(lead, into, ines.id, projectRoles.editor);
    const { sent, begun, goOn } = halting('fresh.txt');
    const landing = send(sent);
    await begun;
    await setAccess(lead, into, ines.id, projectRoles.reader);
    goOn();
    await expect(landing).rejects.toMatchObject({ status: 403 });
  }
  expect(await listVersions(lead, file.id)).toHaveLength(1);
  expect((await contentsOf(lead, projectId, null)).files.map((f) => f.name)).toEqual(['closed.txt']);
});

test('whoever signs out, or whose token is revoked, while a check-in arrives, has made nothing', async () => {
  const file = await add('signed-out.txt');
  const { token, person } = await signedIn('Ruth');
  const access = await makeToken(person, { name: 'laptop', scope: 'desk', days: 1 });
  const ways = [
    { shows: { cookie: token, authorization: null }, end: () => signOut(token) },
    {
      shows: { cookie: undefined, authorization: `Bearer ${access.token}` },
      end: () => revokeToken(person, access.id),
    },
  ];
  for (const { shows, end } of ways) {
    const { sent, begun, goOn } = halting('signed-out.txt');
    const landing = withOrigin(new Headers(), async () => {
      const by = await callerOf({ ...shows, changes: true });
      return checkIn(by as Person, file.id, sent, { note: 'late' });
    });
    await begun;
    await end();
    goOn();
    await expect(landing).rejects.toMatchObject({ status: 401 });
  }
  expect(await listVersions(lead, file.id)).toHaveLength(1);
});

test('a hundred slow uploads hold no connection: others check in meanwhile', async () => {
  const slow = await Promise.all(
    Array.from({ length: 100 }, async (_, i) => {
      const upload = halting(`slow ${i}.txt`);
      const landing = makeFile(lead, projectId, null, undefined, upload.sent, { note: '' });
      await upload.begun;
      return { ...upload, landing };
    }),
  );
  const quick = await add('quick.txt');
  expect(quick.newest.number).toBe(1);
  for (const { goOn } of slow) goOn();
  await Promise.all(slow.map((s) => s.landing));
  expect((await contentsOf(lead, projectId, null)).files).toHaveLength(101);
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
