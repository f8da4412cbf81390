import { join } from 'node:path';
import { projectRoles, rights, type Right } from '../../contract/access.ts';
import type { FileEntry, Person } from '../../contract/api.ts';
import { checkOut, giveUp, listHeld } from '../checkouts/service.ts';
import { everyEntry, readLedger } from '../ledger/ledger.ts';
import { archiveOf } from '../projects/archive.ts';
import { noteRule, setRule } from '../projects/rules.ts';
import {
  changeFile,
  changeFolder,
  contentsOf,
  findFiles,
  foldersOf,
  getFile,
  getProject,
  listProjects,
  makeFolder,
  makeProject,
  renameProject,
} from '../projects/service.ts';
import { addReference, archiveWithReferences, deskFiles, referencesOfVersion } from '../references/service.ts';
import { deleteFile, listDeleted } from '../sets/deleting.ts';
import { getSet, listSets } from '../sets/sets.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile } from '../versions/checkin.ts';
import { downloadOf } from '../versions/download.ts';
import { compareVersions } from '../versions/comparisons.ts';
import { bringForward, getVersion, listVersions, railOf } from '../versions/service.ts';
import { viewOf } from '../versions/view.ts';
import { accessHere } from './access.ts';
import { listAccess, setAccess } from './granting.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let admin: Person;
let lead: Person;
let ines: Person;
let guest: Person;
let projectId: string;
let open: string;
let shut: string;
let inner: string;
let sheet: FileEntry;
let stamp: FileEntry;
let deep: FileEntry;
const CLOSED = /^This is closed to you\. Ask Tobias\.$/;
const grant = (
  person: Person | null,
  held: readonly Right[] | null,
  folderId: string | null = null,
): Promise<unknown> => setAccess(lead, { projectId, folderId }, person?.id ?? null, held);
const svg = (inside: string): string => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">${inside}</svg>`;
const add = async (folderId: string | null, name: string, content: string): Promise<FileEntry> =>
  (await makeFile(lead, projectId, folderId, undefined, incoming(name, content), { note: 'first' })).file;

beforeEach(async () => {
  [admin, lead, ines, guest] = [
    await makeTestPerson('administrator', 'Marit'),
    await makeTestPerson('lead', 'Tobias'),
    await makeTestPerson('editor', 'Ines'),
    await makeTestPerson('guest', 'Wenna'),
  ];
  projectId = (await makeProject(lead, `Landing ${Math.random()}`)).id;
  // Only Tobias is to be asked here, whoever else the other tests made.
  await grant(null, projectRoles.reader);
  [open, shut] = [
    (await makeFolder(lead, projectId, null, 'Graphics')).id,
    (await makeFolder(lead, projectId, null, 'Tender')).id,
  ];
  inner = (await makeFolder(lead, projectId, shut, 'Signs')).id;
  stamp = await add(shut, 'stamp.svg', svg('<rect width="3" height="3"/>'));
  sheet = await add(open, 'sheet.svg', svg('<image href="../Tender/stamp.svg" width="4" height="4"/>'));
  deep = await add(inner, 'arrow.svg', svg('<circle r="1"/>'));
});

describe('somebody who may see one folder only', () => {
  beforeEach(async () => {
    await grant(null, null);
    await grant(guest, ['see', 'see old versions', 'check out'], open);
  });

  test('finds that, and nothing else, in every list', async () => {
    expect((await listProjects(guest)).map((p) => [p.id, p.files])).toEqual([[projectId, 1]]);
    const top = await contentsOf(guest, projectId, null);
    expect([top.folders.map((f) => f.name), top.files]).toEqual([['Graphics'], []]);
    expect((await contentsOf(guest, projectId, open)).files.map((f) => f.name)).toEqual(['sheet.svg']);
    expect((await foldersOf(guest, projectId)).map((f) => f.name)).toEqual(['Graphics']);
    expect((await findFiles(guest, 's')).map((f) => f.name)).toEqual(['sheet.svg']);
    expect((await deskFiles(guest, projectId)).map((f) => f.path)).toEqual(['Graphics/sheet.svg']);
    expect((await archiveOf(guest, projectId, undefined, undefined)).entries.map((e) => e.path)).toEqual([
      'Graphics/sheet.svg',
    ]);
    expect((await listSets(guest, projectId, {})).flatMap((s) => s.files.map((f) => f.name))).toEqual(['sheet.svg']);
    await deleteFile(lead, stamp.id, 'secret');
    expect(await listDeleted(guest, projectId)).toEqual([]);
    await checkOut(lead, [deep.id]);
    expect(await listHeld(guest, {})).toEqual([]);
  });

  test('is told of everything else that it is closed, without its name, and whom to ask', async () => {
    const older = stamp.newest.id;
    for (const tried of [
      () => contentsOf(guest, projectId, shut),
      () => getFile(guest, stamp.id),
      () => listVersions(guest, stamp.id),
      () => railOf(guest, stamp.id),
      () => getVersion(guest, older),
      () => viewOf(guest, older, null),
      () => downloadOf(guest, older),
      () => compareVersions(guest, older, sheet.newest.id),
      () => referencesOfVersion(guest, older),
      () =>
        checkOut(guest, [sheet.id, stamp.id]).catch((e: Error) => {
          throw new Error(
            e.message.replace("You can't check files out here: you are a guest.", 'This is closed to you.'),
          );
        }),
    ])
      await expect(tried()).rejects.toThrow(CLOSED);
    expect(await listHeld(guest, { mine: 'yes' })).toEqual([]);
    const secret = (await listSets(lead, projectId, {})).find((s) => s.files.some((f) => f.name === 'stamp.svg'));
    await expect(getSet(guest, secret?.id ?? '')).rejects.toMatchObject({ status: 403 });
  });

  test('sees of the ledger what concerns that folder', async () => {
    expect((await readLedger(guest, { project: projectId })).entries.map((e) => e.subject)).toEqual(['sheet.svg v1']);
    const all: string[] = [];
    for await (const page of everyEntry(guest, { project: projectId })) all.push(...page.map((e) => e.subject));
    expect(all).toEqual(['sheet.svg v1']);
    await expect(readLedger(guest, { file: stamp.id })).rejects.toThrow(
      "You can't see what was done here: you are a guest. Ask Tobias.",
    );
    await expect(readLedger(guest, {})).rejects.toThrow(/As a guest/);
  });

  test('does not get what is closed by way of a reference', async () => {
    const { needs } = await referencesOfVersion(guest, sheet.newest.id);
    expect(needs).toMatchObject([{ found: 'closed', file: null, then: null }]);
    expect((await archiveWithReferences(guest, sheet.newest.id, 'now')).entries.map((e) => e.path)).toEqual([
      'Graphics/sheet.svg',
    ]);
    expect((await archiveWithReferences(lead, sheet.newest.id, 'now')).entries.map((e) => e.path)).toEqual([
      'Graphics/sheet.svg',
      'Tender/stamp.svg',
    ]);
    const drawn = async (by: Person): Promise<string> => (await viewOf(by, sheet.newest.id, null)).text();
    expect(await drawn(guest)).toContain('href="../Tender/stamp.svg"');
    expect(await drawn(lead)).toContain('href="data:image/svg+xml;base64,');
    await expect(addReference(guest, sheet.id, stamp.id)).rejects.toThrow(CLOSED);
    expect((await referencesOfVersion(lead, stamp.newest.id)).neededBy).toHaveLength(1);
  });

  test('works there: checks in alone and in sets, and nowhere else', async () => {
    await checkOut(guest, [sheet.id], { desk: 'workshop' });
    expect(
      (await checkIn(guest, sheet.id, incoming('sheet.svg', svg('<g/>')), { note: 'mounted' })).version.number,
    ).toBe(2);
    const put = (folderId: string | null) =>
      checkInSet(
        guest,
        projectId,
        [{ name: `${Math.random()}.txt`, folderId }],
        (async function* () {
          yield incoming('a.txt', 'a');
        })(),
        { note: 'two' },
      );
    expect((await put(open)).set?.files).toHaveLength(1);
    await expect(put(shut)).rejects.toThrow("You can't check in versions here: you are a guest. Ask Tobias.");
    await expect(put(null)).rejects.toMatchObject({ status: 403 });
    await expect(changeFile(guest, sheet.id, { folderId: shut })).rejects.toMatchObject({ status: 403 });
    await expect(changeFolder(guest, open, { parentId: shut })).rejects.toMatchObject({ status: 403 });
    await expect(makeFolder(guest, projectId, null, 'Mine')).rejects.toThrow("You can't make folders here");
    await expect(bringForward(guest, sheet.newest.id, 'back')).rejects.toThrow(
      "You can't bring versions forward here: the folder “Graphics” of “Landing",
    );
  });

  test('may give up what they held when the right was taken away', async () => {
    await checkOut(guest, [sheet.id]);
    await grant(guest, null, open);
    expect((await listHeld(guest, { mine: 'yes' })).map((h) => h.fileId)).toEqual([sheet.id]);
    expect(await giveUp(guest, [sheet.id])).toBe(1);
    await expect(getProject(guest, projectId)).rejects.toThrow(CLOSED);
  });
});

describe('somebody who may see the newest versions only', () => {
  let versions: string[];
  beforeEach(async () => {
    await grant(guest, projectRoles['newest only']);
    await checkIn(lead, sheet.id, incoming('sheet.svg', svg('<circle r="2"/>')), { note: 'second' });
    versions = (await listVersions(lead, sheet.id)).map((v) => v.id);
  });

  test('has a rail with one version, and that one to look at and download', async () => {
    expect((await listVersions(guest, sheet.id, { from: 1, to: 2 })).map((v) => v.number)).toEqual([2]);
    const rail = await railOf(guest, sheet.id);
    expect([rail.numbers[0], rail.at.length, rail.lines.length]).toEqual([2, 1, 1]);
    expect((await downloadOf(guest, versions[1] ?? '')).fileName).toBe('sheet v2.svg');
  });

  test('is refused every older one, the history, and the project at an earlier moment', async () => {
    const refused = /^You can't see .* here: the project “.*” gives you “see” only\. Ask Tobias\.$/;
    for (const tried of [
      () => downloadOf(guest, versions[0] ?? ''),
      () => compareVersions(guest, versions[0] ?? '', versions[1] ?? ''),
      () => listSets(guest, projectId, {}),
      () => listDeleted(guest, projectId),
      () => archiveOf(guest, projectId, undefined, new Date()),
      () => readLedger(guest, { project: projectId }),
    ])
      await expect(tried()).rejects.toThrow(refused);
    await checkIn(lead, sheet.id, incoming('sheet.svg', svg('<g id="beside"/>')), {
      note: '',
      branch: true,
      base: versions[0],
    });
    await expect(railOf(guest, sheet.id, 1)).rejects.toThrow(refused);
    expect((await railOf(lead, sheet.id)).lines).toHaveLength(2);
  });
});

describe('saying who may do what', () => {
  test('is for those who manage the place, who cannot give what they do not have', async () => {
    await grant(ines, ['see', 'manage'], shut);
    await setAccess(ines, { projectId, folderId: inner }, guest.id, ['see']);
    expect((await foldersOf(guest, projectId)).map((f) => f.name)).toContain('Signs');
    await expect(setAccess(ines, { projectId, folderId: inner }, guest.id, ['erase'])).rejects.toThrow(
      "You can't give the right “erase”, because you do not have it yourself.",
    );
    await expect(setAccess(ines, { projectId, folderId: open }, guest.id, ['see'])).rejects.toThrow(
      "You can't say who may do what here: you are a reader in the project “Landing",
    );
    await expect(setAccess(ines, { projectId, folderId: null }, guest.id, ['see'])).rejects.toMatchObject({
      status: 403,
    });
    for (const tried of [
      () => renameProject(ines, projectId, 'Mine'),
      () => setRule(ines, noteRule, { what: 'project', id: projectId }, true),
    ])
      await expect(tried()).rejects.toThrow('Ask Tobias.');
    await setRule(ines, noteRule, { what: 'folder', id: shut }, true);
  });

  test('holds at once, is in the ledger, and is taken back', async () => {
    await grant(ines, projectRoles.nothing, shut);
    await expect(getFile(ines, deep.id)).rejects.toThrow(CLOSED);
    await grant(ines, projectRoles.editor, inner);
    expect((await getFile(ines, deep.id)).name).toBe('arrow.svg');
    expect((await contentsOf(ines, projectId, shut)).files).toEqual([]);
    await grant(ines, null, shut);
    expect((await getFile(ines, stamp.id)).name).toBe('stamp.svg');
    const said = (await readLedger(lead, { project: projectId, act: 'changed access' })).entries.map((e) => e.subject);
    expect(said.slice(0, 3)).toEqual([
      'Tender: Ines: nothing is said any more',
      'Signs: Ines: editor',
      'Tender: Ines: may do nothing',
    ]);
  });

  test('administrators can do everything, and nobody can say otherwise', async () => {
    await grant(null, projectRoles.nothing);
    expect((await getFile(admin, deep.id)).name).toBe('arrow.svg');
    await expect(grant(admin, [])).rejects.toThrow('Marit is an administrator, who may do everything everywhere.');
    expect(
      (await listAccess(admin, { projectId, folderId: null })).people.find((p) => p.id === admin.id),
    ).toMatchObject({ said: null, rights });
  });

  test('a page of it says what holds for each person, and where that is said', async () => {
    await grant(ines, projectRoles.editor);
    await grant(guest, projectRoles.checker, shut);
    const list = await listAccess(lead, { projectId, folderId: inner });
    const of = (p: Person | null) => list.people.find((row) => row.id === (p?.id ?? null));
    expect(list.mayManage).toBe(true);
    expect(of(ines)).toMatchObject({
      said: null,
      rights: projectRoles.editor,
      from: expect.stringMatching(/^Landing/) as string,
    });
    expect(of(guest)).toMatchObject({ said: null, rights: projectRoles.checker, from: 'Tender' });
    expect(of(null)).toMatchObject({ said: null, rights: projectRoles.reader });
    expect(list.places.map((p) => [p.path, p.said])).toEqual([
      ['', 3],
      ['Graphics', 0],
      ['Tender', 1],
      ['Tender / Signs', 0],
    ]);
    expect((await listAccess(ines, { projectId, folderId: null })).mayManage).toBe(false);
  });

  test('the maker of a project keeps it when everybody else is shut out', async () => {
    await grant(null, projectRoles.nothing);
    expect((await getProject(lead, projectId)).id).toBe(projectId);
    const other = await makeTestPerson('lead', 'Other');
    await expect(getProject(other, projectId)).rejects.toThrow(CLOSED);
    expect((await listProjects(other)).map((p) => p.id)).not.toContain(projectId);
  });

  test('whoever asks is told what they may do, why, and who can give more', async () => {
    expect(await accessHere(ines, { projectId, folderId: open })).toEqual({
      rights: projectRoles.reader,
      as: expect.stringMatching(/^you are a reader in the project “Landing/) as string,
      ask: [{ id: lead.id, name: 'Tobias' }],
    });
    await grant(guest, ['see', 'check out'], open);
    expect((await accessHere(guest, { projectId, folderId: open })).as).toMatch(
      /^the folder “Graphics” of “Landing.*” gives you “see”, “check out” only$/,
    );
    await grant(lead, projectRoles.editor);
    expect((await accessHere(ines, { projectId, folderId: null })).ask.length).toBeGreaterThan(0);
  });
});

test('taking a restriction away gives rights, too: nobody does that with rights that they do not have themselves', async () => {
  const project = (await makeProject(lead, `Gates ${Date.now()}`)).id;
  const shelter = (await makeFolder(lead, project, null, 'Shelter')).id;
  const keeper = await makeTestPerson('reader', 'Keeper');
  const tobias = await makeTestPerson('editor', 'Tobias');
  const place = { projectId: project, folderId: shelter };
  await setAccess(lead, { projectId: project, folderId: null }, tobias.id, projectRoles.lead);
  await setAccess(lead, place, tobias.id, projectRoles.reader);
  await setAccess(lead, place, keeper.id, ['see', 'manage']);
  await expect(setAccess(keeper, place, tobias.id, null)).rejects.toMatchObject({ status: 403 });
  await expect(setAccess(keeper, place, tobias.id, ['see', 'check out'])).rejects.toMatchObject({ status: 403 });
  // To take rights away, and to leave them as they are, needs none of them.
  await setAccess(keeper, place, tobias.id, ['see']);
  await setAccess(lead, place, tobias.id, null);
  expect((await accessHere(tobias, place)).rights).toEqual(projectRoles.lead);
});
