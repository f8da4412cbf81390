import { join } from 'node:path';
import type { FileEntry, Person, Version } from '../../contract/api.ts';
import { checkOut, standingOf } from '../checkouts/service.ts';
import { getFile, makeFolder, makeProject } from '../projects/service.ts';
import { landProposal, propose } from '../proposals/service.ts';
import { readWhole } from '../store/reader.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { listVersions, railOf } from '../versions/service.ts';
import { titleVersion } from '../versions/titles.ts';
import { deleteFile } from '../sets/deleting.ts';
import { listSets } from '../sets/sets.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { branchFile, changeLine, lineage, startLine } from './service.ts';
import { setAside } from './set-aside.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let ines: Person;
let tobias: Person;
let projectId: string;
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  tobias = await makeTestPerson('editor', 'Tobias');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
});

async function method(...texts: readonly string[]): Promise<{ file: FileEntry; versions: Version[] }> {
  const [first = '', ...later] = texts;
  const { file } = await makeFile(ines, projectId, null, 'method.txt', incoming('method.txt', first), {
    note: 'first',
  });
  const versions = [file.newest];
  for (const text of later)
    versions.push((await checkIn(ines, file.id, incoming('method.txt', text), { note: text })).version);
  return { file, versions };
}

const contentOf = async (versionId: string): Promise<string> =>
  (await readWhole((await versionRow(versionId)).content_id)).toString();

test('a line starts from any version, goes on beside the main line, and comes back', async () => {
  const { file, versions } = await method('one\ntwo\n', 'one\ntwo\nthree\n');
  const first = await startLine(tobias, versions[0]?.id ?? '', 'Crane from the water', 'the quay is too weak');
  expect(first).toMatchObject({
    number: 2,
    line: 'Crane from the water',
    note: 'the quay is too weak',
    parentId: versions[0]?.id,
  });
  const { version } = await checkIn(tobias, file.id, incoming('method.txt', 'one, by water\ntwo\n'), {
    note: '',
    line: first.lineId,
    base: first.id,
  });
  expect(version).toMatchObject({ number: 3, line: 'Crane from the water' });
  expect((await getFile(ines, file.id)).newest.number).toBe(2);
  const rail = await railOf(ines, file.id);
  expect(rail.lines.map((line) => [line.name, line.from?.number ?? null])).toEqual([
    ['main line', null],
    ['Crane from the water', 1],
  ]);
  expect(rail.lanes).toMatchObject([{ line: first.lineId, numbers: [2, 3] }]);
  const proposal = await propose(ines, file.id, { kind: 'join', from: version.id });
  const landed = await landProposal(ines, proposal.id, '', undefined);
  expect(await contentOf(landed.id)).toBe('one, by water\ntwo\nthree\n');
  expect((await railOf(ines, file.id)).sources).toContainEqual([landed.id, version.id]);
});

test('what somebody holds is its main line; a line beside it goes on', async () => {
  const { file, versions } = await method('one\n');
  const line = await startLine(tobias, versions[0]?.id ?? '', 'By water', '');
  await checkOut(ines, [file.id]);
  const { version } = await checkIn(tobias, file.id, incoming('method.txt', 'two\n'), { note: '', line: line.lineId });
  expect(version.line).toBe('By water');
  await expect(checkIn(tobias, file.id, incoming('method.txt', 'three\n'), { note: '' })).rejects.toMatchObject({
    code: 'checked-out',
  });
});

test('a line beside the main one is held by itself: others go on on the main line, and nobody else on that one', async () => {
  const { file, versions } = await method('one\n');
  const { lineId } = await startLine(tobias, versions[0]?.id ?? '', 'By water', '');
  expect(await checkOut(ines, [file.id], { line: lineId })).toMatchObject([
    { line: { id: lineId, name: 'By water', isMain: false }, by: { name: ines.name } },
  ]);
  expect((await standingOf(tobias, file.id)).checkout).toBeNull();
  expect((await standingOf(tobias, file.id, lineId)).checkout?.by.id).toBe(ines.id);
  const more = (by: Person, text: string, onto?: string): ReturnType<typeof checkIn> =>
    checkIn(by, file.id, incoming('method.txt', text), { note: '', line: onto });
  await expect(more(tobias, 'two\n', lineId)).rejects.toThrow('“By water” of “');
  expect((await more(tobias, 'three\n')).version.line).toBe('main line');
  await expect(deleteFile(tobias, file.id, 'not needed')).rejects.toMatchObject({ code: 'checked-out' });
  expect((await more(ines, 'by water\n', lineId)).version.number).toBe(3);
  expect((await standingOf(tobias, file.id, lineId)).checkout).toBeNull();
});

test('a closed line cannot be checked out', async () => {
  const { file, versions } = await method('one\n');
  const { lineId } = await startLine(tobias, versions[0]?.id ?? '', 'By rail', '');
  await changeLine(tobias, lineId, { closed: true });
  await expect(checkOut(ines, [file.id], { line: lineId })).rejects.toMatchObject({ code: 'line-closed' });
  expect((await standingOf(ines, file.id, lineId)).checkout).toBeNull();
});

test('a closed line is kept, takes nothing, and can be opened again; names are taken once', async () => {
  const { file, versions } = await method('one\n');
  const line = await startLine(ines, versions[0]?.id ?? '', 'By water', '');
  await expect(startLine(ines, versions[0]?.id ?? '', 'by WATER', '')).rejects.toMatchObject({ code: 'name-taken' });
  expect(await changeLine(ines, line.lineId, { name: 'By barge', closed: true })).toMatchObject({
    name: 'By barge',
    closed: true,
  });
  const more = (): ReturnType<typeof checkIn> =>
    checkIn(ines, file.id, incoming('method.txt', 'two\n'), { note: '', line: line.lineId });
  await expect(more()).rejects.toMatchObject({ code: 'line-closed' });
  expect(await listVersions(ines, file.id, { line: line.lineId })).toHaveLength(1);
  await changeLine(ines, line.lineId, { closed: false });
  expect((await more()).version.number).toBe(3);
  const main = (await railOf(ines, file.id)).line;
  await expect(changeLine(ines, main, { closed: true })).rejects.toMatchObject({ code: 'main-line' });
});

test('a version becomes a file of its own, with its history or without; both know of one another', async () => {
  const { file, versions } = await method('one\n', 'two\n', 'three\n');
  const folder = await makeFolder(ines, projectId, null, 'Trials');
  const at = versions[1]?.id ?? '';
  const alone = await branchFile(ines, at, {
    name: 'trial.txt',
    folderId: folder.id,
    reason: 'a trial',
    history: false,
  });
  expect(alone.version).toMatchObject({
    number: 1,
    source: 2,
    sourceRole: 'branched off from',
    sourceFile: { name: 'method.txt' },
  });
  const whole = await branchFile(ines, at, { name: 'whole.txt', reason: '', history: true });
  expect((await listVersions(ines, whole.fileId)).map((v) => [v.number, v.note])).toEqual([
    [1, 'first'],
    [2, 'Branched off from v2.'],
  ]);
  expect(await lineage(ines, alone.fileId)).toMatchObject({ from: { file: 'method.txt', number: 2 }, made: [] });
  expect((await lineage(ines, file.id)).made.map((m) => m.file)).toEqual(['trial.txt', 'whole.txt']);
  expect(await contentOf((await getFile(ines, file.id)).newest.id)).toBe('three\n');
  await expect(
    branchFile(ines, at, { name: 'Trial.txt', folderId: folder.id, reason: '', history: false }),
  ).rejects.toMatchObject({
    code: 'name-taken',
  });
});

test('a file that was branched off is joined back like a line', async () => {
  const { file, versions } = await method('one\ntwo\nthree\n');
  const trial = await branchFile(tobias, versions[0]?.id ?? '', { name: 'trial.txt', reason: '', history: false });
  const { version } = await checkIn(tobias, trial.fileId, incoming('trial.txt', 'one\ntwo, twice\nthree\n'), {
    note: '',
  });
  await checkIn(ines, file.id, incoming('method.txt', 'one\ntwo\nthree, slowly\n'), { note: '' });
  const proposal = await propose(ines, file.id, { kind: 'join', from: version.id });
  expect(proposal.clashes).toEqual([]);
  const landed = await landProposal(ines, proposal.id, '', undefined);
  expect(await contentOf(landed.id)).toBe('one\ntwo, twice\nthree, slowly\n');
});

test('ten groups leave ten results and one clean file', async () => {
  const { file, versions } = await method('empty form\n');
  const start = versions[0]?.id ?? '';
  await expect(setAside(ines, start, { name: 'result', reason: '' })).rejects.toMatchObject({
    code: 'no-starting-state',
  });
  expect(await titleVersion(ines, start, { title: 'Empty form', starting: true })).toMatchObject({
    title: 'Empty form',
    starting: true,
  });
  for (let group = 1; group <= 10; group++) {
    await checkIn(tobias, file.id, incoming('method.txt', `form of group ${group}\n`), { note: '' });
    const { aside, newest } = await setAside(tobias, start, { name: 'group {number}', reason: '' });
    expect(aside.name).toBe(`group ${group}.txt`);
    expect(await contentOf((await getFile(ines, aside.fileId)).newest.id)).toBe(`form of group ${group}\n`);
    expect(await contentOf(newest.id)).toBe('empty form\n');
  }
  expect((await getFile(ines, file.id)).newest).toMatchObject({
    number: 21,
    source: 1,
    sourceRole: 'brought forward from',
  });
  expect((await lineage(ines, file.id)).made).toHaveLength(10);
  expect((await listSets(ines, projectId, {}))[0]?.files.map((f) => f.name).sort()).toEqual([
    'group 10.txt',
    'method.txt',
  ]);
  await expect(setAside(ines, start, { name: 'again', reason: '' })).rejects.toMatchObject({
    code: 'nothing-to-set-aside',
  });
});

test('a title makes a keeper, and can be taken away', async () => {
  const { versions } = await method('one\n');
  const id = versions[0]?.id ?? '';
  await titleVersion(ines, id, { title: 'Agreed with the harbour' });
  expect(await versionRow(id)).toMatchObject({ title: 'Agreed with the harbour', starting: false });
  await expect(titleVersion(ines, id, { title: null, starting: true })).rejects.toMatchObject({ code: 'bad-input' });
  expect(await titleVersion(ines, id, { title: null })).toMatchObject({ title: null });
  await expect(titleVersion(await makeTestPerson('reader'), id, { title: 'Mine' })).rejects.toMatchObject({
    code: 'not-allowed',
  });
});
