import { mkdirSync, mkdtempSync, renameSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Person } from '../../contract/api.ts';
import type { Looked, Watched } from '../../contract/watched.ts';
import { db } from '../db/pool.ts';
import { readLedger } from '../ledger/ledger.ts';
import { contentsOf, makeProject } from '../projects/service.ts';
import { makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { listVersions } from '../versions/service.ts';
import { dueRows } from './rows.ts';
import { listWatched, lookNow, makeWatched, removeWatched } from './service.ts';

withTestDatabase();

let root: string;
let marit: Person;
let projectId: string;
let watched: Watched;
let n = 0;
beforeEach(async () => {
  root = mkdtempSync(join(tmpdir(), 'ovrel-shares-'));
  process.env['OVREL_WATCHED_ROOT'] = root;
  mkdirSync(join(root, 'office'));
  marit = await makeTestPerson('administrator', 'Marit');
  projectId = (await makeProject(marit, `Landing ${++n}`)).id;
  await db().query('delete from watched_folder');
  await db().query('update project set saves_count = true where id = $1', [projectId]);
  watched = await makeWatched(marit, { path: 'office', projectId, folderId: undefined, everyMinutes: 60 });
});
afterEach(() => rmSync(root, { recursive: true, force: true }));

/** Written so many seconds ago. */
function write(name: string, text: string, secondsAgo = 60): void {
  const path = join(root, 'office', name);
  mkdirSync(join(path, '..'), { recursive: true });
  writeFileSync(path, text);
  const at = new Date(Date.now() - secondsAgo * 1000);
  utimesSync(path, at, at);
}
const look = (): Promise<Looked> => lookNow(marit, watched.id);
const told = async (): Promise<Watched> => (await listWatched(marit)).folders[0] as Watched;

/** The versions of a file, as their kinds and sizes. */
async function versionsOf(name: string): Promise<string[]> {
  const { files } = await contentsOf(marit, projectId, null);
  const file = files.find((one) => one.name === name);
  if (!file) return [];
  return (await listVersions(marit, file.id)).map(({ kind, size }) => `${kind} ${size}`);
}

test('what is new becomes files with a backup, what is saved again a version, and what is as it was none', async () => {
  write('pontoon.txt', 'one');
  expect(await look()).toEqual({ versions: 1, files: 1, waiting: 0, problem: null });
  expect(await look()).toMatchObject({ versions: 0 });
  write('pontoon.txt', 'two two', 50);
  expect(await look()).toMatchObject({ versions: 1, files: 0 });
  // Touched, and the same as it was.
  write('pontoon.txt', 'two two', 40);
  expect(await look()).toMatchObject({ versions: 0 });
  expect(await versionsOf('pontoon.txt')).toEqual(['backup 3', 'backup 7']);
  expect(await told()).toMatchObject({ files: 1, problem: null, problems: [] });
});

test('numbered backups become versions before the file that they are of, each content once', async () => {
  write('deck.0002.txt', 'twotwo', 10);
  write('deck.0001.txt', 'one', 20);
  write('deck.txt', 'threethree', 30);
  expect(await look()).toMatchObject({ versions: 3, files: 1 });
  expect(await versionsOf('deck.txt')).toEqual(['backup 3', 'backup 6', 'backup 10']);
  // The program saves: what was there becomes a backup, which Ovrel knows.
  write('deck.0003.txt', 'threethree');
  write('deck.txt', 'four four four');
  expect(await look()).toMatchObject({ versions: 1, files: 0 });
  expect((await versionsOf('deck.txt')).at(-1)).toBe('backup 14');
});

test('two looks at once take each file once, in its order', async () => {
  for (let n = 1; n <= 6; n++) write(`deck.000${n}.txt`, 'x'.repeat(n), 60 - n);
  write('deck.txt', 'x'.repeat(7), 30);
  const [first, second] = await Promise.all([look(), look()]);
  expect(first.versions + second.versions).toBe(7);
  expect(await versionsOf('deck.txt')).toEqual([1, 2, 3, 4, 5, 6, 7].map((size) => `backup ${size}`));
  expect(await told()).toMatchObject({ problem: null, problems: [] });
});

test('a file that is still being written is waited for, also under a clock that is ahead', async () => {
  write('slow.txt', 'half', 0);
  expect(await look()).toMatchObject({ versions: 0, waiting: 1 });
  expect(await look()).toMatchObject({ versions: 1, waiting: 0 });
  write('ahead.txt', 'from tomorrow', -86_400);
  expect(await look()).toMatchObject({ waiting: 1 });
  expect(await look()).toMatchObject({ versions: 1 });
  write('empty.txt', '');
  write('~$deck.txt', 'a lock');
  write('deck.tmp', 'a temporary file');
  expect(await look()).toMatchObject({ versions: 0, waiting: 1 });
});

test('folders beneath come along; links are not followed', async () => {
  write('sheets/plan.txt', 'plan');
  writeFileSync(join(root, 'secret.txt'), 'not of this folder');
  symlinkSync(join(root, 'secret.txt'), join(root, 'office', 'linked.txt'));
  symlinkSync(root, join(root, 'office', 'all'));
  expect(await look()).toMatchObject({ versions: 1, files: 1 });
  const { folders } = await contentsOf(marit, projectId, null);
  expect(folders.map(({ name }) => name)).toEqual(['sheets']);
});

test('a folder that vanishes is told, loses nothing, and goes on when it is there again', async () => {
  write('pontoon.txt', 'one');
  await look();
  renameSync(join(root, 'office'), join(root, 'away'));
  expect(await look()).toMatchObject({ problem: 'gone', versions: 0 });
  expect(await told()).toMatchObject({ problem: 'gone', files: 1 });
  renameSync(join(root, 'away'), join(root, 'office'));
  expect(await look()).toMatchObject({ problem: null, versions: 0 });
  expect(await versionsOf('pontoon.txt')).toEqual(['backup 3']);
});

test('nothing outside of the folder that is allowed can be watched, not by dots and not by links', async () => {
  const asked = { projectId, folderId: undefined, everyMinutes: 5 };
  symlinkSync(tmpdir(), join(root, 'out'));
  for (const path of ['..', '../..', 'office/../..', 'out', 'nowhere'])
    await expect(makeWatched(marit, { ...asked, path })).rejects.toMatchObject({ code: 'no-such-folder' });
  await expect(makeWatched(marit, { ...asked, path: '/office/' })).rejects.toMatchObject({ code: 'watched' });
  const lead = await makeTestPerson('lead', 'Tobias');
  await expect(listWatched(lead)).rejects.toMatchObject({ code: 'not-allowed' });
  // A folder that becomes a link to elsewhere later is not followed either.
  renameSync(join(root, 'office'), join(root, 'was'));
  symlinkSync(tmpdir(), join(root, 'office'));
  expect(await look()).toMatchObject({ problem: 'outside', versions: 0 });
});

test('a file that is refused is named with why, and the others are taken', async () => {
  await db().query('update project set note_required = true where id = $1', [projectId]);
  write('pontoon.txt', 'one');
  expect(await look()).toMatchObject({ versions: 0 });
  expect((await told()).problems).toEqual([{ path: 'pontoon.txt', why: expect.stringMatching(/note/) as string }]);
  await db().query('update project set note_required = false where id = $1', [projectId]);
  write('pontoon.txt', 'again', 50);
  expect(await look()).toMatchObject({ versions: 1 });
  expect((await told()).problems).toEqual([]);
});

test('it is looked at when its time has come; ended, it is not, and the ledger tells who did that', async () => {
  expect(await dueRows(db())).toEqual([{ id: watched.id }]);
  await look();
  expect(await dueRows(db())).toEqual([]);
  await db().query(`update watched_folder set looked_at = now() - interval '1 hour'`);
  expect(await dueRows(db())).toHaveLength(1);
  await removeWatched(marit, watched.id);
  await expect(look()).rejects.toMatchObject({ code: 'not-found' });
  const { entries } = await readLedger(marit, { act: 'watched a folder' });
  expect(entries[0]).toMatchObject({ subject: 'office, no more', by: { name: 'Marit' } });
});
