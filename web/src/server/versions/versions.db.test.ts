import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { FileEntry, Person } from '../../contract/api.ts';
import { may } from '../people/permissions.ts';
import {
  changeFile,
  changeFolder,
  contentsOf,
  findFiles,
  getProject,
  makeFolder,
  makeProject,
} from '../projects/service.ts';
import { readWhole } from '../store/reader.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from './checkin.ts';
import { runWaitingJobs } from '../jobs/run.ts';
import { compareVersions } from './comparisons.ts';
import { lookAt } from '../facts/look.ts';
import { thumbnailOf } from '../facts/thumbnail.ts';
import { versionRow } from './rows.ts';
import { bringForward, getVersion, listVersions, railOf } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let lead: Person;
let editor: Person;
let reader: Person;
let projectId: string;
let n = 0;

beforeAll(async () => {
  [lead, editor, reader] = [
    await makeTestPerson('lead'),
    await makeTestPerson('editor'),
    await makeTestPerson('reader'),
  ];
  projectId = (await makeProject(lead, 'Landing')).id;
});

const svg = (inner: string): string => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">${inner}</svg>`;
const add = async (content: string, name = `plan-${++n}.svg`): Promise<FileEntry> =>
  (await makeFile(editor, projectId, null, undefined, incoming(name, content), { note: 'first' })).file;
const rect = (x: number): string => svg(`<rect id="r" x="${x}" width="2" height="2"/>`);

describe('lists of versions', () => {
  test('a window of numbers, the newest by default, never too many at once', async () => {
    const file = await add(rect(0));
    for (let i = 1; i < 6; i++) await checkIn(editor, file.id, incoming(file.name, rect(i)), { note: '' });
    const numbers = async (window: { from?: number; to?: number }): Promise<number[]> =>
      (await listVersions(reader, file.id, window)).map((v) => v.number);
    expect(await numbers({})).toEqual([1, 2, 3, 4, 5, 6]);
    expect(await numbers({ from: 2, to: 4 })).toEqual([2, 3, 4]);
    expect(await numbers({ from: 5 })).toEqual([5, 6]);
    expect(await numbers({ to: 2 })).toEqual([1, 2]);
    expect(await numbers({ from: 7, to: 9 })).toEqual([]);
    await expect(numbers({ from: 1, to: 5000 })).rejects.toThrow('at most 1,000 versions');
  });

  test('the rail has every version with its maker, and what was brought forward', async () => {
    const file = await add(rect(0));
    await checkIn(lead, file.id, incoming(file.name, rect(1)), { note: '', title: 'Agreed', kind: 'backup' });
    await bringForward(editor, (await listVersions(reader, file.id))[0]!.id, '');
    const rail = await railOf(reader, file.id);
    const [first, second, third] = rail.ids;
    expect(rail).toMatchObject({
      numbers: [1, 2, 3],
      kinds: 'cbc',
      titles: [[second, 'Agreed']],
      sources: [[third, first]],
    });
    expect(rail.by.map((place) => rail.people[place]!.name)).toEqual(['editor', 'lead', 'editor']);
    expect(Math.abs((rail.at[2] ?? 0) * 1000 - Date.now())).toBeLessThan(120_000);
  });
});

describe('check-in', () => {
  test('adds versions in order, with who, when and why', async () => {
    const file = await add(rect(0));
    const result = await checkIn(editor, file.id, incoming(file.name, rect(1)), { note: '  moved ' });
    expect(result).toMatchObject({
      made: true,
      sentence: 'Checked in as v2.',
      hints: [],
      version: { number: 2, note: 'moved', by: { name: 'editor' } },
    });
    expect((await listVersions(reader, file.id)).map((v) => v.number)).toEqual([1, 2]);
  });

  test('of the content that is the newest already makes no version and says so', async () => {
    const file = await add(rect(0));
    expect(await checkIn(editor, file.id, incoming(file.name, rect(0)), { note: '' })).toMatchObject({
      made: false,
      sentence: expect.stringMatching(/same as the newest version, v1/) as string,
    });
    expect(await listVersions(reader, file.id)).toHaveLength(1);
  });

  test('under another name lands with a hint; of another kind is asked about first', async () => {
    const file = await add(rect(0));
    expect((await checkIn(editor, file.id, incoming('copy (2).svg', rect(1)), { note: '' })).hints[0]).toMatch(
      /“copy \(2\).svg”.*version of/,
    );
    await expect(checkIn(editor, file.id, incoming('a.txt', 'words'), { note: '' })).rejects.toMatchObject({
      code: 'other-format',
      status: 409,
    });
    expect(await listVersions(reader, file.id)).toHaveLength(2);
    expect(
      await checkIn(editor, file.id, incoming('a.txt', 'words'), { note: '', allowOtherFormat: true }),
    ).toMatchObject({ made: true });
  });

  test('by two people at once: both land, one after the other', async () => {
    const file = await add(rect(0));
    const results = await Promise.all(
      [1, 2, 3, 4].map((x) => checkIn(editor, file.id, incoming(file.name, rect(x)), { note: String(x) })),
    );
    expect(results.map((r) => r.version.number).sort()).toEqual([2, 3, 4, 5]);
  });

  test('on top of a version that the sender has not seen is told, and nothing is stored', async () => {
    const file = await add(rect(0));
    await checkIn(lead, file.id, incoming(file.name, rect(1)), { note: '' });
    const before = await countRows('content');
    await expect(
      checkIn(editor, file.id, incoming(file.name, rect(2)), { note: '', base: file.newest.id }),
    ).rejects.toMatchObject({
      code: 'newer-version',
      message: expect.stringMatching(/v2 was checked in while you were at work/) as string,
    });
    expect(await countRows('content')).toBe(before);
  });

  test('above the limit is refused with a sentence, and leaves nothing', async () => {
    const file = await add(rect(0));
    const before = await countRows('chunk');
    process.env['OVREL_UPLOAD_LIMIT'] = '1000000';
    await expect(
      checkIn(editor, file.id, incoming(file.name, new Uint8Array(600_000).fill(1), new Uint8Array(600_000)), {
        note: '',
        allowOtherFormat: true,
      }),
    ).rejects.toMatchObject({ status: 413, message: expect.stringMatching(/larger than 1,000,000 bytes/) as string });
    delete process.env['OVREL_UPLOAD_LIMIT'];
    expect(await countRows('chunk')).toBe(before);
  });

  test('an empty file, and something that only says it is a drawing, are kept and told', async () => {
    const empty = await add('');
    const lie = await add('not a drawing at all');
    expect((await getVersion(reader, empty.newest.id)).look.problem).toMatch(/empty/);
    expect((await getVersion(reader, lie.newest.id)).look.problem).toMatch(/The name says SVG drawing/);
    expect((await readWhole((await versionRow(lie.newest.id)).content_id)).toString()).toBe('not a drawing at all');
  });

  test('names with slashes, control characters, turning marks and 300 characters are made usable', async () => {
    const made = await makeFile(
      editor,
      projectId,
      null,
      undefined,
      incoming(`../../etc/\u202egnp\u0007${'a'.repeat(300)}.svg`, rect(5)),
      { note: '' },
    );
    expect(made.file.name).toMatch(/^gnpa+\.svg$/);
    expect(made.file.name).toHaveLength(200);
    expect(made.hints[0]).toMatch(/was changed to/);
    await expect(changeFile(editor, made.file.id, { name: 'a/b.svg' })).rejects.toThrow(/can't contain \/ or/);
    await expect(changeFile(editor, made.file.id, { name: 'x'.repeat(300) })).rejects.toThrow(/has 300 characters/);
  });
});

describe('bring forward', () => {
  test('makes the old content the newest version, names its source, and removes nothing', async () => {
    const file = await add(rect(0));
    await checkIn(editor, file.id, incoming(file.name, rect(1)), { note: '' });
    const made = await bringForward(editor, file.newest.id, 'v2 was wrong');
    expect(made).toMatchObject({
      number: 3,
      source: 1,
      note: 'Brought forward from v1: v2 was wrong',
      sha256: file.newest.sha256,
    });
    expect(await listVersions(reader, file.id)).toHaveLength(3);
    await expect(bringForward(editor, made.id, '')).rejects.toThrow(/v3 is the newest version already/);
    await expect(bringForward(editor, file.newest.id, '')).rejects.toThrow(/already has the content of v1/);
  });
});

describe('what is computed', () => {
  test('a comparison is found, kept, and summed up in the list of versions', async () => {
    const file = await add(rect(0));
    const { version } = await checkIn(editor, file.id, incoming(file.name, rect(3)), { note: '' });
    const { comparison, picture } = await compareVersions(reader, file.newest.id, version.id);
    expect(comparison).toMatchObject({
      level: 'parts',
      counts: { moved: 1, unchanged: 0 },
      a: { name: 'v1' },
      b: { name: 'v2' },
    });
    expect(picture.outlines['c1']!.b!.paths[0]!.slice(0, 2)).toEqual([3, 0]);
    await runWaitingJobs();
    const rows = await countRows('comparison');
    await compareVersions(reader, file.newest.id, version.id);
    expect(await countRows('comparison')).toBe(rows);
    expect((await listVersions(reader, file.id)).at(-1)!.summary).toBe('Rectangle “r” moved by (3, 0)');
  });

  test('a thumbnail is drawn; an entity bomb is neither drawn nor read, and kept', async () => {
    const file = await makeFile(
      editor,
      projectId,
      null,
      undefined,
      incoming('lighthouse.svg', readFileSync(join(__dirname, '../../../../demo/real/lighthouse.svg'))),
      { note: '' },
    );
    const png = await thumbnailOf(await versionRow(file.file.newest.id), 96);
    expect(png!.subarray(1, 4).toString()).toBe('PNG');
    const bomb = await add(
      '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>',
    );
    const row = await versionRow(bomb.newest.id);
    expect((await lookAt(row)).problem).toMatch(/entity/);
    expect(await thumbnailOf(row, 96)).toBeUndefined();
  });
});

describe('files without a reader', () => {
  test('are compared from the store, a piece at a time, and say so', async () => {
    const bytes = new Uint8Array(3_000_000).fill(7);
    const other = bytes.slice();
    other[2_345_678] = 9;
    const { file } = await makeFile(editor, projectId, null, undefined, incoming('model.bin', bytes), { note: '' });
    const { version } = await checkIn(editor, file.id, incoming('model.bin', other), { note: '' });
    const { comparison } = await compareVersions(reader, file.newest.id, version.id);
    expect(comparison).toMatchObject({
      level: 'bytes',
      counts: { changed: 1 },
      notes: [expect.stringMatching(/no reader for this kind/)],
    });
    expect(comparison.changes[0]!.what).toEqual([
      {
        aspect: 'content',
        at: 2_345_678,
        property: 'first difference at offset 2,345,678',
        from: 'byte 07',
        to: 'byte 09',
      },
    ]);
    expect((await lookAt(await versionRow(version.id))).level).toBe('bytes');
  });

  test('a drawing beside a picture that claims to be one: both are named', async () => {
    const file = await add(rect(0));
    const { version } = await checkIn(
      editor,
      file.id,
      incoming(file.name, Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
      { note: '', allowOtherFormat: true },
    );
    const { comparison } = await compareVersions(reader, file.newest.id, version.id);
    expect(comparison.level).toBe('bytes');
    expect(comparison.notes).toEqual([
      expect.stringMatching(/^The newer picture could not be looked into. The picture cannot be read/),
      expect.stringMatching(
        /^The newer file could not be read part by part. The name says SVG drawing, but its content is a PNG picture/,
      ),
    ]);
  });
});

describe('projects and folders', () => {
  test('hold each name once, whatever its capitals, and moving keeps history', async () => {
    const file = await add(rect(0), 'Bridge.svg');
    await expect(add(rect(1), 'bridge.SVG')).rejects.toThrow(/already a file called/);
    const outer = await makeFolder(editor, projectId, null, 'Outer');
    const inner = await makeFolder(editor, projectId, outer.id, 'Inner');
    const moved = await changeFile(editor, file.id, { folderId: inner.id, name: 'gate.svg' });
    const [there, elsewhere] = [await getProject(editor, projectId), await makeProject(lead, 'Elsewhere')];
    expect(elsewhere).toMatchObject({ files: 0, changedAt: null });
    await changeFile(editor, file.id, { projectId: elsewhere.id });
    expect([(await getProject(editor, projectId)).files, await getProject(editor, elsewhere.id)]).toMatchObject([
      there.files - 1,
      { files: 1, changedAt: file.newest.at },
    ]);
    await changeFile(editor, file.id, { projectId, folderId: inner.id });
    expect((await getProject(editor, projectId)).files).toBe(there.files);
    expect(moved).toMatchObject({
      name: 'gate.svg',
      path: [{ name: 'Outer' }, { name: 'Inner' }],
      newest: { id: file.newest.id },
    });
    expect((await contentsOf(reader, projectId, inner.id)).files.map((f) => f.name)).toEqual(['gate.svg']);
    await expect(changeFolder(editor, outer.id, { parentId: inner.id })).rejects.toThrow(/can't be moved into itself/);
    expect((await findFiles(reader, 'GATE')).map((f) => f.id)).toEqual([file.id]);
    expect(await findFiles(reader, '%')).toEqual([]);
  });
});

test('a reader can look at everything and change nothing, and is told whom to ask', async () => {
  const file = await add(rect(0));
  expect(await listVersions(reader, file.id)).toHaveLength(1);
  const refused = /^You can't .* here: you are a reader\. Ask /;
  await expect(checkIn(reader, file.id, incoming('a.svg', rect(1)), { note: '' })).rejects.toThrow(refused);
  await expect(bringForward(reader, file.newest.id, '')).rejects.toThrow(refused);
  await expect(changeFile(reader, file.id, { name: 'b.svg' })).rejects.toThrow(refused);
  await expect(makeFolder(reader, projectId, null, 'x')).rejects.toThrow(refused);
  await expect(makeProject(editor, 'y')).rejects.toThrow(
    /As an editor you can't make projects. Ask a lead or an administrator/,
  );
  expect(may(reader, 'read')).toBe(true);
});
