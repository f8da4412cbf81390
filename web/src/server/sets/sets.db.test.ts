import { join } from 'node:path';
import type { FileEntry, Person } from '../../contract/api.ts';
import { checkOut, listHeld } from '../checkouts/service.ts';
import { changeFile, contentsOf, findFiles, getFile, makeFolder, makeProject } from '../projects/service.ts';
import { noteRule, setRule } from '../projects/rules.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile, type Incoming } from '../versions/checkin.ts';
import { listVersions } from '../versions/service.ts';
import { bringBack, deleteFile, listDeleted } from './deleting.ts';
import { getSet, listSets } from './sets.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let ines: Person;
let anselm: Person;
let projectId: string;
let n = 0;
beforeEach(async () => {
  const lead = await makeTestPerson('lead');
  [ines, anselm] = [await makeTestPerson('editor', 'Ines'), await makeTestPerson('editor', 'Anselm')];
  projectId = (await makeProject(lead, `Landing ${++n}`)).id;
});
const add = async (name: string, text = 'one'): Promise<FileEntry> =>
  (await makeFile(ines, projectId, null, undefined, incoming(name, text), { note: '' })).file;
async function* these(...files: Incoming[]): AsyncGenerator<Incoming> {
  yield* files;
}
const base = async (file: FileEntry): Promise<string> => (await listVersions(ines, file.id)).at(-1)!.id;

describe('a check-in set', () => {
  test('lands as one: one note, one number, changed and new files together', async () => {
    const plan = await add('plan.txt');
    const stairs = await add('stairs.txt');
    const same = await add('same.txt');
    await checkOut(ines, [plan.id, stairs.id, same.id]);
    const result = await checkInSet(
      ines,
      projectId,
      [
        { fileId: plan.id, base: await base(plan) },
        { fileId: stairs.id, keep: true },
        { fileId: same.id },
        { name: 'kiosk.txt', folderId: null },
      ],
      these(
        incoming('plan.txt', 'two'),
        incoming('stairs.txt', 'two'),
        incoming('same.txt', 'one'),
        incoming('x.txt', 'new'),
      ),
      { note: 'Stairs moved' },
    );
    expect(result).toMatchObject({
      sentence: 'Set 4 was checked in: 3 files.',
      same: ['same.txt'],
      set: { number: 4, kind: 'check-in', note: 'Stairs moved', by: { name: 'Ines' } },
    });
    expect(result.set!.files.map((f) => [f.name, f.version, f.first])).toEqual([
      ['kiosk.txt', 1, true],
      ['plan.txt', 2, false],
      ['stairs.txt', 2, false],
    ]);
    expect((await listHeld(ines, { project: projectId })).map((h) => h.fileName)).toEqual(['stairs.txt']);
    const versions = await listVersions(ines, plan.id);
    expect(versions.at(-1)).toMatchObject({ note: 'Stairs moved' });
  });

  test('lands not at all if one of its files may not land', async () => {
    const plan = await add('plan.txt');
    const stairs = await add('stairs.txt');
    const before = [
      await countRows('version'),
      await countRows('checkin_set'),
      await countRows('content'),
      await countRows('ledger'),
    ];
    await checkOut(anselm, [stairs.id]);
    const after = await countRows('ledger');
    await expect(
      checkInSet(
        ines,
        projectId,
        [{ fileId: plan.id }, { fileId: stairs.id }],
        these(incoming('plan.txt', 'a'), incoming('stairs.txt', 'b')),
        { note: '' },
      ),
    ).rejects.toMatchObject({ code: 'checked-out' });
    await expect(
      checkInSet(
        ines,
        projectId,
        [{ fileId: plan.id }, { name: 'stairs.txt' }],
        these(incoming('plan.txt', 'a'), incoming('stairs.txt', 'b')),
        { note: '' },
      ),
    ).rejects.toMatchObject({ code: 'name-taken' });
    await expect(
      checkInSet(ines, projectId, [{ fileId: plan.id }, { name: 'late.txt' }], these(incoming('plan.txt', 'a')), {
        note: '',
      }),
    ).rejects.toThrow('Only 1 of 2 files came. Nothing was stored; send the set again.');
    await expect(
      checkInSet(ines, projectId, [{ fileId: plan.id }, { fileId: plan.id }], these(incoming('plan.txt', 'a')), {
        note: '',
      }),
    ).rejects.toThrow('twice');
    expect([await countRows('version'), await countRows('checkin_set'), await countRows('content'), after]).toEqual([
      ...before.slice(0, 3),
      await countRows('ledger'),
    ]);
  });

  test('does not overlook what landed meanwhile', async () => {
    const plan = await add('plan.txt');
    const old = await base(plan);
    await checkIn(anselm, plan.id, incoming('plan.txt', 'by Anselm'), { note: '' });
    await expect(
      checkInSet(ines, projectId, [{ fileId: plan.id, base: old }], these(incoming('plan.txt', 'mine')), { note: '' }),
    ).rejects.toMatchObject({ code: 'newer-version', extra: { newest: 2 } });
  });

  test('the project and the file list their sets, newest first', async () => {
    const plan = await add('plan.txt');
    const other = await add('other.txt');
    await checkIn(anselm, plan.id, incoming('plan.txt', 'two'), { note: 'second' });
    expect((await listSets(ines, projectId, {})).map((s) => [s.number, s.note, s.files[0]!.name])).toEqual([
      [3, 'second', 'plan.txt'],
      [2, '', 'other.txt'],
      [1, '', 'plan.txt'],
    ]);
    expect((await listSets(ines, projectId, { file: other.id })).map((s) => s.number)).toEqual([2]);
    expect((await listSets(ines, projectId, { before: 2 })).map((s) => s.number)).toEqual([1]);
  });

  test('a note can be required, by the project or the nearest folder', async () => {
    const lead = await makeTestPerson('lead');
    const folder = await makeFolder(lead, projectId, null, 'Sketches');
    const below = await makeFolder(lead, projectId, folder.id, 'Old');
    await expect(setRule(ines, noteRule, { what: 'project', id: projectId }, true)).rejects.toMatchObject({
      status: 403,
    });
    await setRule(lead, noteRule, { what: 'project', id: projectId }, true);
    expect(await contentsOf(ines, projectId, below.id)).toMatchObject({ noteRule: null, noteRequired: true });
    await setRule(lead, noteRule, { what: 'folder', id: folder.id }, false);
    expect(await contentsOf(ines, projectId, below.id)).toMatchObject({ noteRule: null, noteRequired: false });
    await expect(makeFile(ines, projectId, null, undefined, incoming('a.txt', 'x'), { note: ' ' })).rejects.toThrow(
      'Here every check-in needs a note: say why.',
    );
    expect(
      (await makeFile(ines, projectId, folder.id, undefined, incoming('a.txt', 'x'), { note: '' })).file.name,
    ).toBe('a.txt');
    await expect(
      checkInSet(ines, projectId, [{ name: 'b.txt' }], these(incoming('b.txt', 'x')), { note: '' }),
    ).rejects.toMatchObject({ code: 'note-required' });
  });
});

describe('a deleted file', () => {
  test('is out of the lists but keeps its versions, and says who, when, why and in which set', async () => {
    const plan = await add('plan.txt');
    await checkIn(ines, plan.id, incoming('plan.txt', 'two'), { note: '' });
    await deleteFile(anselm, plan.id, 'replaced by the new plan');
    expect((await contentsOf(ines, projectId, null)).files).toEqual([]);
    expect((await contentsOf(ines, projectId, null)).project.files).toBe(0);
    expect((await findFiles(ines, 'plan.txt')).filter((f) => f.id === plan.id)).toEqual([]);
    const [gone] = await listDeleted(ines, projectId);
    expect(gone).toMatchObject({
      id: plan.id,
      name: 'plan.txt',
      versions: 2,
      by: { name: 'Anselm' },
      reason: 'replaced by the new plan',
      set: 3,
    });
    const set = await getSet(ines, (await getFile(ines, plan.id)).deletedIn!);
    expect(set).toMatchObject({
      number: 3,
      kind: 'delete',
      files: [{ name: 'plan.txt', version: null, deleted: true }],
    });
    expect(await listVersions(ines, plan.id)).toHaveLength(2);
    await expect(checkIn(ines, plan.id, incoming('plan.txt', 'three'), { note: '' })).rejects.toThrow(
      'is deleted. Bring it back first.',
    );
    // Its name is free again.
    expect((await add('plan.txt')).name).toBe('plan.txt');
  });

  test('is counted nowhere, also when it is moved to another project, and once when it comes back there', async () => {
    const plan = await add('moved while deleted.txt');
    const elsewhere = (await makeProject(await makeTestPerson('lead'), 'Elsewhere')).id;
    const countsOf = async (): Promise<number[]> => [
      (await contentsOf(ines, projectId, null)).project.files,
      (await contentsOf(ines, elsewhere, null)).project.files,
    ];
    const [here = 0] = await countsOf();
    await deleteFile(ines, plan.id, 'a mistake');
    await changeFile(ines, plan.id, { projectId: elsewhere });
    expect(await countsOf()).toEqual([here - 1, 0]);
    await bringBack(ines, plan.id, {});
    expect(await countsOf()).toEqual([here - 1, 1]);
  });

  test('comes back, at any of its versions, under another name if it must', async () => {
    const plan = await add('plan.txt', 'one');
    await checkIn(ines, plan.id, incoming('plan.txt', 'two'), { note: '' });
    const [first] = await listVersions(ines, plan.id);
    await deleteFile(ines, plan.id, 'a mistake');
    await add('plan.txt', 'another');
    await expect(bringBack(ines, plan.id, { versionId: first!.id })).rejects.toMatchObject({ code: 'name-taken' });
    const back = await bringBack(ines, plan.id, { versionId: first!.id, name: 'plan again.txt' });
    expect(back).toMatchObject({
      name: 'plan again.txt',
      deletedIn: null,
      newest: { number: 3, source: 1, sha256: first!.sha256 },
    });
    expect((await contentsOf(ines, projectId, null)).project.files).toBe(2);
    await expect(bringBack(ines, plan.id, {})).rejects.toThrow('is not deleted');
    expect((await listSets(ines, projectId, {}))[0]).toMatchObject({
      kind: 'bring back',
      files: [{ name: 'plan again.txt', version: 3 }],
    });
  });
});
