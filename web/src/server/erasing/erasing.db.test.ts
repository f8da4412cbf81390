import type { FileEntry, Person, Version } from '../../contract/api.ts';
import { checkOut } from '../checkouts/service.ts';
import { addComment } from '../comments/service.ts';
import { db } from '../db/pool.ts';
import { proveVersions } from '../ledger/seals.ts';
import { startLine } from '../lines/service.ts';
import { getFile, makeProject } from '../projects/service.ts';
import { collect } from '../store/collect.ts';
import { readWhole } from '../store/reader.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { eraseBack, erasePreview } from './service.ts';

withTestDatabase();

let ines: Person;
let tobias: Person;
let file: FileEntry;
let versions: Version[];
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  tobias = await makeTestPerson('editor', 'Tobias');
  const project = await makeProject(ines, `Landing ${++n}`);
  const made = await makeFile(ines, project.id, null, 'method.txt', incoming('method.txt', `one ${n}`), { note: '' });
  file = made.file;
  versions = [file.newest];
  for (const [by, text] of [
    [ines, `two ${n}`],
    [tobias, `three ${n}`],
    [tobias, `four ${n}`],
  ] as const)
    versions.push((await checkIn(by, file.id, incoming('method.txt', text), { note: `says ${text}` })).version);
});
const idOf = (number: number): string => versions[number - 1]?.id ?? '';
const asked = (more: Partial<Parameters<typeof eraseBack>[2]> = {}): Parameters<typeof eraseBack>[2] => ({
  reason: 'the wrong file',
  name: 'method.txt',
  useInstead: false,
  ...more,
});

test('what goes is counted beforehand', async () => {
  await addComment(tobias, file.id, { version: idOf(4), body: 'Really?' });
  expect(await erasePreview(ines, idOf(2))).toMatchObject({
    file: 'method.txt',
    to: { number: 2 },
    versions: [{ number: 3 }, { number: 4 }],
    people: [{ name: 'Tobias', versions: 2 }],
    comments: 1,
    bytes: `three ${n}`.length + `four ${n}`.length,
    blocked: [],
  });
});

test('the older version is the newest again, the rest is gone with its bytes, and the ledger knows what it was', async () => {
  const { content_id: content } = await versionRow(idOf(4));
  const { sentence } = await eraseBack(ines, idOf(2), asked());
  expect(sentence).toBe('2 versions were erased for good. v2 is the newest again.');
  expect((await getFile(ines, file.id)).newest).toMatchObject({ id: idOf(2), number: 2 });
  await expect(versionRow(idOf(4))).rejects.toMatchObject({ code: 'not-found' });
  await collect(async () => undefined, 0);
  await expect(readWhole(content)).rejects.toThrow();
  const { rows } = await db().query<{ entry: string }>(
    `select entry from ledger where file_id = $1 and act = 'erased'`,
    [file.id],
  );
  const entry = JSON.parse(rows[0]?.entry ?? '{}') as { reason: string; erased: { number: number; content: string }[] };
  expect(entry.reason).toBe('the wrong file');
  expect(entry.erased.map((seal) => [seal.number, seal.content])).toEqual([
    [3, versions[2]?.sha256],
    [4, versions[3]?.sha256],
  ]);
  const client = await db().connect();
  try {
    expect((await proveVersions(client)).wrong).toEqual([]);
    // What goes missing in any other way is told all the same.
    await client.query('delete from version where id = $1', [idOf(2)]);
    expect((await proveVersions(client)).wrong).toMatchObject([{ number: 2, fault: 'missing' }]);
  } finally {
    client.release();
  }
});

test('numbers go on after the version that stays', async () => {
  await eraseBack(ines, idOf(3), asked());
  const { version } = await checkIn(ines, file.id, incoming('method.txt', 'another four'), { note: '' });
  expect(version.number).toBe(4);
});

test('keepers and what a line starts from are not erased, and it is said how to free them', async () => {
  await db().query(`update version set title = 'Agreed' where id = $1`, [idOf(3)]);
  await startLine(tobias, idOf(4), 'By water', '');
  const { blocked } = await erasePreview(ines, idOf(2));
  expect(blocked).toEqual([
    'v3 is a keeper, “Agreed”. Take its title away first, if it may go.',
    'The line “By water” starts from v4. While it is there, v4 stays.',
  ]);
  await expect(eraseBack(ines, idOf(2), asked())).rejects.toMatchObject({ code: 'kept' });
  expect((await getFile(ines, file.id)).newest.number).toBe(4);
});

test('without the right, the name, or while somebody holds the file, nothing goes', async () => {
  const before = await countRows('version');
  await expect(eraseBack(tobias, idOf(2), asked())).rejects.toMatchObject({ code: 'not-allowed' });
  await expect(erasePreview(tobias, idOf(2))).rejects.toMatchObject({ code: 'not-allowed' });
  await expect(eraseBack(ines, idOf(2), asked({ name: 'Method' }))).rejects.toMatchObject({ code: 'not-confirmed' });
  await checkOut(tobias, [file.id]);
  await expect(eraseBack(ines, idOf(2), asked())).rejects.toMatchObject({ code: 'checked-out' });
  await expect(eraseBack(ines, idOf(4), asked())).rejects.toThrow();
  expect(await countRows('version')).toBe(before);
});
