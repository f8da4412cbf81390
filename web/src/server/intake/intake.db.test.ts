import { join } from 'node:path';
import type { Person } from '../../contract/api.ts';
import type { PlannedFile } from '../../contract/intake.ts';
import { db } from '../db/pool.ts';
import { contentsOf, makeProject } from '../projects/service.ts';
import { readWhole } from '../store/reader.ts';
import { listVersions, railOf } from '../versions/service.ts';
import { versionRow } from '../versions/rows.ts';
import type { Incoming } from '../versions/checkin.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { takeIn } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let ines: Person;
let projectId: string;
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
});

const at = (day: number): string => new Date(Date.UTC(2026, 8, day)).toISOString();

async function* all(...copies: readonly (readonly [name: string, text: string])[]): AsyncGenerator<Incoming> {
  for (const [name, text] of copies) yield incoming(name, text);
}

const plan: PlannedFile[] = [
  {
    name: 'plan.txt',
    folderId: null,
    copies: [
      { path: 'old/plan.txt', line: 0, parent: null, at: at(1) },
      { path: 'old/plan-v2.txt', line: 0, parent: 0, at: at(2), person: 'Wenna Tregar', reason: 'with the shelter' },
      { path: 'old/plan crane.txt', line: 1, parent: 0, at: at(3) },
      { path: 'old/plan-v3.txt', line: 0, parent: 1, at: at(5) },
      { path: 'old/plan crane 2.txt', line: 1, parent: 2, at: at(6) },
    ],
  },
  { name: 'tides.txt', folderId: null, copies: [{ path: 'tides.txt', line: 0, parent: null, at: null }] },
];
const copies = [
  ['plan.txt', 'one'],
  ['plan-v2.txt', 'two'],
  ['plan crane.txt', 'by crane'],
  ['plan-v3.txt', 'three'],
  ['plan crane 2.txt', 'by a larger crane'],
  ['tides.txt', 'high water'],
] as const;

const filesThere = async (): Promise<string[]> =>
  (await contentsOf(ines, projectId, null)).files.map((file) => file.name);

test('copies become one file with lines, in their order, with their own names and times', async () => {
  const { files, sentence } = await takeIn(ines, projectId, plan, all(...copies), {
    note: 'from the old server',
    key: undefined,
  });
  expect(files.map((f) => [f.name, f.versions, f.lines])).toEqual([
    ['plan.txt', 5, 2],
    ['tides.txt', 1, 1],
  ]);
  expect(sentence).toContain('6 copies are 2 files now');
  const fileId = files[0]?.fileId ?? '';
  const main = await listVersions(ines, fileId);
  expect(main.map((v) => [v.number, v.kind, v.note, v.at])).toEqual([
    [1, 'backup', 'old/plan.txt', at(1)],
    [2, 'backup', 'old/plan-v2.txt, made by Wenna Tregar: with the shelter', at(2)],
    [3, 'backup', 'old/plan-v3.txt', at(5)],
  ]);
  const { lines } = await railOf(ines, fileId);
  expect(lines.map((l) => [l.name, l.from?.number ?? null])).toEqual([
    ['main line', null],
    ['plan crane (1)', 1],
  ]);
  const crane = await listVersions(ines, fileId, { line: lines[1]?.id });
  const texts = await Promise.all(
    crane.map(async (v) => (await readWhole((await versionRow(v.id)).content_id)).toString()),
  );
  expect(texts).toEqual(['by crane', 'by a larger crane']);
});

test('all or nothing: with a copy missing, a name that is taken, or a plan out of order nothing is there', async () => {
  const options = { note: '', key: undefined };
  await expect(takeIn(ines, projectId, plan, all(...copies.slice(0, 4)), options)).rejects.toMatchObject({
    code: 'cut-off',
  });
  const [first] = plan as [PlannedFile];
  const wrong = [{ ...first, copies: [...first.copies].reverse() }];
  await expect(takeIn(ines, projectId, wrong, all(), options)).rejects.toThrow('not in order');
  expect(await filesThere()).toEqual([]);
  await takeIn(ines, projectId, plan, all(...copies), options);
  await expect(takeIn(ines, projectId, plan, all(...copies), options)).rejects.toMatchObject({ code: 'name-taken' });
  expect(await filesThere()).toEqual(['plan.txt', 'tides.txt']);
});

test('sent again with its key it is done once; a reader may not', async () => {
  const key = crypto.randomUUID();
  const one = await takeIn(ines, projectId, plan, all(...copies), { note: '', key });
  const two = await takeIn(ines, projectId, plan, all(...copies), { note: '', key });
  expect(two.files).toEqual(one.files);
  const reader = await makeTestPerson('reader', 'Guest');
  await expect(takeIn(reader, projectId, plan, all(...copies), { note: '', key: undefined })).rejects.toMatchObject({
    code: 'not-allowed',
  });
  expect(
    (await db().query("select 1 from ledger where act = 'took in' and project_id = $1", [projectId])).rowCount,
  ).toBe(2);
});
