import { join } from 'node:path';
import type { FileEntry, Person, Version } from '../../contract/api.ts';
import { checkOut } from '../checkouts/service.ts';
import { db } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { changeLine, startLine } from '../lines/service.ts';
import { listSets } from '../sets/sets.ts';
import { collect } from '../store/collect.ts';
import { readWhole } from '../store/reader.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { compareVersions } from '../versions/comparisons.ts';
import { versionRow } from '../versions/rows.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { decide, discard, getProposal, landProposal, openProposal, propose, byHand } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

const plan = (kiosk: number, shed: number, title = 'Landing'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">
  <rect id="kiosk" x="${kiosk}" y="0" width="10" height="10"/>
  <rect id="shed" x="${shed}" y="20" width="10" height="10"/>
  <text id="title" x="5" y="50">${title}</text>
</svg>`;

let ines: Person;
let tobias: Person;
let projectId: string;
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  tobias = await makeTestPerson('editor', 'Tobias');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
});

/** A file with these contents, one version after the other; gives the file and its versions. */
async function history(...contents: readonly string[]): Promise<{ file: FileEntry; versions: Version[] }> {
  const [first = '', ...later] = contents;
  const { file } = await makeFile(ines, projectId, null, 'plan.svg', incoming('plan.svg', first), { note: 'first' });
  const versions = [file.newest];
  for (const content of later)
    versions.push((await checkIn(ines, file.id, incoming('plan.svg', content), { note: '' })).version);
  return { file, versions };
}

const contentOf = async (versionId: string): Promise<string> =>
  (await readWhole((await versionRow(versionId)).content_id)).toString();

async function changesOf(a: Version, b: Version, key: string): Promise<string[]> {
  const { comparison } = await compareVersions(ines, a.id, b.id);
  return comparison.changes.flatMap((change) => (change.part.key === key ? [change.id] : []));
}

const takingBack = async (key: string, [a, b]: readonly Version[]): Promise<Parameters<typeof propose>[2]> => {
  if (!a || !b) throw new Error('two versions are needed');
  return { kind: 'take back', a: a.id, b: b.id, changes: await changesOf(a, b, key) };
};

test('a change is taken back, looked at as if it were a version, and lands with later work kept', async () => {
  const { file, versions } = await history(plan(0, 40), plan(5, 44), plan(5, 44, 'Landing, final'));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  expect(proposal).toMatchObject({ changed: true, clashes: [], inseparable: [], onto: { number: 3 }, outdated: false });
  expect(await contentOf(proposal.version.id)).toBe(plan(5, 40, 'Landing, final'));
  const { comparison } = await compareVersions(ines, proposal.onto.id, proposal.version.id);
  expect(comparison.changes.map((change) => change.part.key)).toEqual(['shed']);
  expect((await versionsOf(file)).length).toBe(3);

  const landed = await landProposal(ines, proposal.id, '', undefined);
  expect(landed).toMatchObject({
    number: 4,
    source: 1,
    sourceRole: 'taken back to',
    note: expect.stringMatching(/^Taken back of what came after v1: .*shed/) as string,
  });
  expect(await contentOf(landed.id)).toBe(plan(5, 40, 'Landing, final'));
  expect((await listSets(ines, projectId, {}))[0]).toMatchObject({ kind: 'take back' });
  expect(await openProposal(ines, file.id)).toEqual({ proposal: null });
  const acts = await db().query<{ act: string }>(
    'select act from ledger where file_id = $1 order by seq desc limit 1',
    [file.id],
  );
  expect(acts.rows).toEqual([{ act: 'took back' }]);
});

const versionsOf = async (file: FileEntry): Promise<{ id: string }[]> =>
  (await db().query<{ id: string }>('select id from version where file_id = $1', [file.id])).rows;

test('what was changed again later waits for a decision', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44), plan(0, 47));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  expect(proposal.clashes).toMatchObject([{ kind: 'both-changed', decided: false, choice: 'ours' }]);
  await expect(landProposal(ines, proposal.id, '', undefined)).rejects.toMatchObject({ code: 'nothing-to-do' });
  const decided = await decide(ines, proposal.id, { [proposal.clashes[0]?.key ?? '']: 'theirs' });
  expect(decided.clashes).toMatchObject([{ decided: true, choice: 'theirs' }]);
  expect((await openProposal(ines, file.id)).proposal?.id).toBe(decided.id);
  expect(await contentOf((await landProposal(ines, decided.id, 'the old place', undefined)).id)).toBe(plan(0, 40));
});

test('a clash is decided by hand in the file, and what somebody made by hand is not lost', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44), plan(0, 47));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  await expect(byHand(tobias, proposal.id, incoming('plan.svg', plan(0, 45)))).rejects.toMatchObject({
    code: 'not-found',
  });
  await expect(byHand(ines, proposal.id, incoming('plan.txt', 'no drawing'))).rejects.toMatchObject({
    code: 'other-format',
  });
  const made = await byHand(ines, proposal.id, incoming('plan.svg', plan(0, 45)));
  expect(made).toMatchObject({ byHand: true, changed: true, clashes: [{ decided: true }] });
  expect(await contentOf(made.version.id)).toBe(plan(0, 45));
  await checkIn(tobias, file.id, incoming('plan.svg', plan(3, 47)), { note: '' });
  await expect(landProposal(ines, made.id, '', undefined)).rejects.toThrow('is still here');
  expect((await openProposal(ines, file.id)).proposal?.id).toBe(made.id);
});

test('what was made by hand lands with both sources', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44), plan(0, 47));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  const made = await byHand(ines, proposal.id, incoming('plan.svg', plan(0, 45)));
  const landed = await landProposal(ines, made.id, 'in between', undefined);
  expect(landed).toMatchObject({ number: 4, source: 1 });
  expect(await contentOf(landed.id)).toBe(plan(0, 45));
});

test('a version that lands meanwhile is not overlooked: it is made anew, and shown once more', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  await checkIn(tobias, file.id, incoming('plan.svg', plan(9, 44)), { note: '' });
  expect(await getProposal(ines, proposal.id)).toMatchObject({ outdated: true });
  const refusal = await landProposal(ines, proposal.id, '', undefined).catch((error: unknown) => error);
  expect(refusal).toMatchObject({ code: 'newer-version' });
  const { proposal: anew } = await openProposal(ines, file.id);
  expect(anew).toMatchObject({ outdated: false, onto: { number: 3 } });
  const landed = await landProposal(ines, anew?.id ?? '', '', undefined);
  expect(await contentOf(landed.id)).toBe(plan(9, 40));
});

test('what one is about to do is seen by nobody else, and who has no right or not the check-out is told', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44));
  const asked = await takingBack('shed', versions);
  const proposal = await propose(ines, file.id, asked);
  await expect(getProposal(tobias, proposal.id)).rejects.toMatchObject({ code: 'not-found' });
  await expect(compareVersions(tobias, proposal.onto.id, proposal.id)).rejects.toMatchObject({ code: 'not-found' });
  await expect(discard(tobias, proposal.id)).rejects.toMatchObject({ code: 'not-found' });
  await expect(propose(await makeTestPerson('reader'), file.id, asked)).rejects.toMatchObject({ code: 'not-allowed' });
  await checkOut(tobias, [file.id]);
  await expect(landProposal(ines, proposal.id, '', undefined)).rejects.toMatchObject({ code: 'checked-out' });
  expect((await versionsOf(file)).length).toBe(2);
});

test('a part of another file comes over with its own version as the source', async () => {
  const { file } = await history(plan(0, 40));
  const { file: other } = await makeFile(
    ines,
    projectId,
    null,
    'details.svg',
    incoming(
      'details.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle id="bollard" r="2" cx="60" cy="60"/></svg>',
    ),
    { note: '' },
  );
  const proposal = await propose(ines, file.id, {
    kind: 'carry over',
    from: other.newest.id,
    parts: [0],
    layers: [],
    pages: [],
    boxes: [],
  });
  const landed = await landProposal(ines, proposal.id, '', undefined);
  expect(await contentOf(landed.id)).toContain('<circle id="bollard"');
  expect(landed).toMatchObject({
    sourceId: other.newest.id,
    sourceRole: 'carried over from',
    note: 'Carried over from v1 of details.svg.',
  });
});

test('a branch is joined back, and its base is the version that it left from', async () => {
  const { file, versions } = await history(plan(0, 40), plan(3, 40));
  const branch = await checkIn(tobias, file.id, incoming('plan.svg', plan(0, 48)), {
    note: 'a try',
    branch: true,
    base: versions[0]?.id,
  });
  const proposal = await propose(ines, file.id, { kind: 'join', from: branch.version.id });
  expect(proposal).toMatchObject({ base: versions[0]?.id, bases: 1, clashes: [] });
  const landed = await landProposal(ines, proposal.id, '', undefined);
  expect(landed).toMatchObject({ number: 3, sourceRole: 'joined from', note: 'Joined “branch of Tobias”, v2.' });
  expect(await contentOf(landed.id)).toBe(plan(3, 48));
  await expect(propose(ines, file.id, { kind: 'join', from: branch.version.id })).rejects.toMatchObject({
    code: 'nothing-to-join',
  });
  // Joined once, what both have now is where they part.
  const again = await checkIn(ines, file.id, incoming('plan.svg', plan(4, 48)), { note: '' });
  expect(again.version.number).toBe(4);
});

test('files that have nothing in common are not joined', async () => {
  const { file } = await history(plan(0, 40));
  const { file: other } = await makeFile(ines, projectId, null, 'other.svg', incoming('other.svg', plan(1, 1)), {
    note: '',
  });
  await expect(propose(ines, file.id, { kind: 'join', from: other.newest.id })).rejects.toMatchObject({
    code: 'no-base',
  });
});

test('the collector keeps what somebody is about to do, and takes it once they let it go', async () => {
  const { file, versions } = await history(plan(0, 41), plan(0, 53), plan(8, 53));
  const proposal = await propose(ines, file.id, await takingBack('shed', versions));
  const { content_id: contentId } = await versionRow(proposal.id);
  await collect(async () => undefined, 0);
  expect(await contentOf(proposal.id)).toBe(plan(8, 41));
  await discard(ines, proposal.id);
  await expect(versionRow(proposal.id)).rejects.toMatchObject({ code: 'not-found' });
  await collect(async () => undefined, 0);
  await expect(readWhole(contentId)).rejects.toThrow();
});

test('a line that was closed meanwhile takes nothing', async () => {
  const { file, versions } = await history(plan(0, 40), plan(0, 44));
  const line = await startLine(ines, versions[1]?.id ?? '', 'By water', '');
  const proposal = await propose(ines, file.id, await takingBack('shed', versions), line.lineId);
  await changeLine(ines, line.lineId, { closed: true });
  await expect(landProposal(ines, proposal.id, '', undefined)).rejects.toMatchObject({ code: 'line-closed' });
});
