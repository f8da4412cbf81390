import { join } from 'node:path';
import type { FileEntry, Person, Version } from '../../contract/api.ts';
import type { Saved } from '../../contract/saving.ts';
import { checkOut, giveUp } from '../checkouts/service.ts';
import { db } from '../db/pool.ts';
import { setAccess } from '../people/granting.ts';
import { getFile } from '../projects/service.ts';
import { listSets } from '../sets/sets.ts';
import { readWhole } from '../store/reader.ts';
import { checkIn } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { bringForward, railOf } from '../versions/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { withLanding } from '../testing/landing.ts';
import { leave, save } from './service.ts';
import { savesRule, setRule } from '../projects/rules.ts';
import { setSittingPause } from '../projects/sittings.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

const landing = withLanding('notes.txt', () => 'first');
let ines: Person;
let tobias: Person;
let projectId: string;
let file: FileEntry;
beforeEach(() => {
  ({ ines, tobias, projectId, file } = landing);
});

const saved = (
  by: Person,
  text: string,
  base?: string,
  more: Partial<Parameters<typeof save>[3]> = {},
): Promise<Saved> =>
  save(by, file.id, incoming('notes.txt', text), { key: undefined, base, title: undefined, ...more });
const newestText = async (): Promise<string> =>
  (await readWhole((await versionRow((await getFile(ines, file.id)).newest.id)).content_id)).toString();
const textOf = async ({ id }: Pick<Version, 'id'>): Promise<string> =>
  (await readWhole((await versionRow(id)).content_id)).toString();
const countAtOnce = (): Promise<void> => setRule(ines, savesRule, { what: 'project', id: projectId }, true);

describe('where people work by check-outs', () => {
  test('saves of the holder stand ahead, beside the main line; the check-in makes them official and names them', async () => {
    await checkOut(tobias, [file.id]);
    const one = await saved(tobias, 'one', file.newest.id);
    expect(one).toMatchObject({
      made: true,
      aside: true,
      version: { kind: 'autosave', number: 2, line: 'saves of Tobias' },
    });
    const two = await saved(tobias, 'two', one.version.id);
    expect(two.version).toMatchObject({ number: 3, line: 'saves of Tobias' });
    expect(await newestText()).toBe('first');
    const { version } = await checkIn(tobias, file.id, incoming('notes.txt', 'three'), { note: 'done' });
    expect(version).toMatchObject({ number: 2, line: 'main line', sourceRole: 'joined from' });
    const { lines, sources } = await railOf(ines, file.id);
    expect(lines.map((l) => [l.name, l.closed])).toEqual([
      ['main line', false],
      ['saves of Tobias', true],
    ]);
    expect(sources).toContainEqual([version.id, two.version.id]);
  });

  test('giving up keeps what was saved as a line that can be fetched, and the next work begins a new one', async () => {
    await checkOut(tobias, [file.id]);
    const one = await saved(tobias, 'one', file.newest.id);
    await giveUp(tobias, [file.id]);
    expect(await textOf(one.version)).toBe('one');
    expect((await saved(tobias, 'other', file.newest.id)).version.line).toBe('saves of Tobias, 2');
  });
});

test('what was made of a newer check-in begins a line of its own, so that a join knows where it comes from', async () => {
  const one = await saved(tobias, 'by Tobias', file.newest.id);
  const { version } = await checkIn(ines, file.id, incoming('notes.txt', 'by Ines'), { note: '' });
  const two = await saved(tobias, 'by Tobias on top of Ines', version.id);
  expect(two.version.lineId).not.toBe(one.version.lineId);
  expect(two.version.parentId).toBe(version.id);
  // A desk that was begun anew knows only what it had got; it goes on with its saves of that.
  expect((await saved(tobias, 'once more', version.id)).version).toMatchObject({
    lineId: two.version.lineId,
    number: 4,
  });
});

describe('where saves count at once', () => {
  test('each is the newest for everybody; nothing new makes no version', async () => {
    await countAtOnce();
    const one = await saved(tobias, 'one', file.newest.id);
    expect(one).toMatchObject({ made: true, aside: false, sentence: 'Saved as v2.', version: { line: 'main line' } });
    expect(await newestText()).toBe('one');
    expect(await saved(tobias, 'one', one.version.id)).toMatchObject({ made: false, version: { id: one.version.id } });
  });

  test('a save of an older version does not take the place of a newer one: it begins a line beside it', async () => {
    await countAtOnce();
    const mine = await saved(ines, 'by Ines', file.newest.id);
    const aside = await saved(tobias, 'by Tobias', file.newest.id);
    expect(aside).toMatchObject({ aside: true, version: { number: 2, line: 'saves of Tobias' } });
    expect(await newestText()).toBe('by Ines');
    expect((await saved(tobias, 'by Tobias, too', aside.version.id)).version).toMatchObject({
      number: 3,
      line: 'saves of Tobias',
    });
    expect((await saved(ines, 'more', mine.version.id)).version).toMatchObject({ number: 3, line: 'main line' });
  });

  test('what somebody else holds is not overwritten', async () => {
    await countAtOnce();
    await checkOut(ines, [file.id]);
    expect(await saved(tobias, 'by Tobias', file.newest.id)).toMatchObject({ aside: true });
    expect(await newestText()).toBe('first');
  });

  test('a file says it for itself, whatever the project says', async () => {
    await countAtOnce();
    await setRule(ines, savesRule, { what: 'file', id: file.id }, false);
    expect(await saved(tobias, 'one', file.newest.id)).toMatchObject({ aside: true });
    await expect(setRule(tobias, savesRule, { what: 'file', id: file.id }, true)).rejects.toMatchObject({
      code: 'not-allowed',
    });
  });
});

test('sent again with its key, a save is made once', async () => {
  const key = crypto.randomUUID();
  const [one, two] = [await saved(tobias, 'one', undefined, { key }), await saved(tobias, 'one', undefined, { key })];
  expect(two.version.id).toBe(one.version.id);
  expect((await db().query('select 1 from version where file_id = $1', [file.id])).rowCount).toBe(2);
});

test('two desks save the same at once: both are kept, one beside the other', async () => {
  await countAtOnce();
  const both = await Promise.all([saved(ines, 'by Ines', file.newest.id), saved(tobias, 'by Tobias', file.newest.id)]);
  expect(both.map((s) => s.aside).sort()).toEqual([false, true]);
  expect((await Promise.all(both.map((s) => textOf(s.version)))).sort()).toEqual(['by Ines', 'by Tobias']);
});

test('saves of a sitting are one set; with a title a save is a keeper', async () => {
  await countAtOnce();
  let base = file.newest.id;
  for (const text of ['one', 'two', 'three']) base = (await saved(tobias, text, base)).version.id;
  const keeper = await saved(tobias, 'four', base, { title: 'For the council' });
  expect(keeper.version.title).toBe('For the council');
  const sets = (await listSets(ines, projectId, {})).filter((set) => set.kind === 'saves');
  expect(sets.map((set) => set.files.length)).toEqual([4]);
});

describe('leaving without keeping', () => {
  test('one act: as it was when the sitting began; nothing is removed, and it can be undone too', async () => {
    await countAtOnce();
    let base = file.newest.id;
    for (const text of ['one', 'two', 'three']) base = (await saved(tobias, text, base)).version.id;
    const left = await leave(tobias, base, '');
    expect(left).toMatchObject({ number: 5, source: 1, note: 'Back to how it was when the sitting began, in v1.' });
    expect(await newestText()).toBe('first');
    await expect(leave(tobias, base, '')).rejects.toMatchObject({ code: 'already-newest' });
    await bringForward(ines, base, '');
    expect(await newestText()).toBe('three');
  });

  test('how long a pause ends a sitting is what the project says, of what came before as well', async () => {
    await countAtOnce();
    const one = await saved(tobias, 'one', file.newest.id);
    await db().query(`update version set made_at = made_at - interval '12 minutes' where id = $1`, [one.version.id]);
    await setSittingPause(ines, projectId, 10);
    const two = await saved(tobias, 'two', one.version.id);
    expect((await railOf(ines, file.id)).sittingPause).toBe(10);
    expect((await listSets(ines, projectId, {})).filter((set) => set.kind === 'saves')).toHaveLength(2);
    expect(await leave(tobias, two.version.id, '')).toMatchObject({ number: 4, source: 2 });
    await expect(setSittingPause(tobias, projectId, 60)).rejects.toMatchObject({ code: 'not-allowed' });
  });

  test('beside the main line it leads back to what was checked in', async () => {
    await checkOut(tobias, [file.id]);
    const one = await saved(tobias, 'one', file.newest.id);
    const left = await leave(tobias, one.version.id, 'a wrong turn');
    expect(left).toMatchObject({ line: 'saves of Tobias', source: 1, note: 'a wrong turn' });
    expect(await textOf(left)).toBe('first');
  });

  test('the sitting of somebody else is left only by those who may bring versions forward', async () => {
    await countAtOnce();
    const { version } = await saved(ines, 'by Ines', file.newest.id);
    const wenna = await makeTestPerson('guest', 'Wenna');
    await setAccess(ines, { projectId, folderId: null }, wenna.id, ['see', 'see old versions', 'check out']);
    await expect(leave(wenna, version.id, '')).rejects.toMatchObject({ code: 'not-allowed' });
    expect(await newestText()).toBe('by Ines');
    expect((await leave(tobias, version.id, '')).number).toBe(3);
  });

  test('a check-in has no sitting', async () => {
    await expect(leave(ines, file.newest.id, '')).rejects.toMatchObject({ code: 'no-sitting' });
  });
});

test('a file of another kind, and a person who may only look, are refused; nothing is kept', async () => {
  const guest = await makeTestPerson('reader', 'Guest');
  await expect(saved(guest, 'by a guest')).rejects.toMatchObject({ code: 'not-allowed' });
  await expect(
    save(tobias, file.id, incoming('plan.svg', '<svg xmlns="http://www.w3.org/2000/svg"/>'), {
      key: undefined,
      base: undefined,
      title: undefined,
    }),
  ).rejects.toMatchObject({ code: 'other-format' });
  expect((await db().query('select 1 from version where file_id = $1', [file.id])).rowCount).toBe(1);
});
