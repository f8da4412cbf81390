import { join } from 'node:path';
import type { FileEntry, Person, Version } from '../../contract/api.ts';
import type { DrawnByAnswer } from '../../contract/drawn.ts';
import { makeProject } from '../projects/service.ts';
import { landProposal, propose } from '../proposals/service.ts';
import { startLine } from '../lines/service.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { bringForward } from '../versions/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { drawnBy, findDrawn } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

const plan = (deck: number, ...more: readonly string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 99 99"><rect id="deck" x="${deck}" width="9" height="9"/>${more.join('')}</svg>`;
const bollard = '<circle id="bollard" r="3" cx="80" cy="80"/>';
const hut = '<rect id="hut" x="50" y="50" width="7" height="7"/>';

let ines: Person;
let tobias: Person;
let file: FileEntry;
let first: Version;
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  tobias = await makeTestPerson('editor', 'Tobias');
  const { id } = await makeProject(ines, `Landing ${++n}`);
  ({ file } = await makeFile(ines, id, null, 'plan.svg', incoming('plan.svg', plan(0)), { note: '' }));
  first = file.newest;
});

const next = async (by: Person, content: string, line?: string): Promise<Version> =>
  (await checkIn(by, file.id, incoming('plan.svg', content), { note: '', line })).version;

async function found(version: Version): Promise<DrawnByAnswer> {
  await findDrawn(version.id, async () => undefined);
  return drawnBy(ines, version.id);
}

/** By name of the part: who touched it, in which version. */
const stories = ({ parts, versions }: DrawnByAnswer): Record<string, string[]> =>
  Object.fromEntries(
    parts.map((part) => [
      part.name,
      part.story.map((v) => `${versions[v]?.by.name ?? ''} v${versions[v]?.number ?? ''}`),
    ]),
  );

test('asked for the first time it is found out in the background; then each part has its story', async () => {
  await next(tobias, plan(0, bollard));
  const last = await next(ines, plan(4, bollard));
  expect(await drawnBy(ines, last.id)).toMatchObject({ ready: false, done: 0, total: 3 });
  expect(stories(await found(last))).toEqual({ deck: ['Ines v1', 'Ines v3'], bollard: ['Tobias v2'] });
});

test('what is gone is listed with who took it out, and can be searched', async () => {
  await next(tobias, plan(0, bollard, hut));
  await next(ines, plan(0, hut));
  const last = await next(tobias, plan(0));
  const { gone, versions } = await found(last);
  expect(gone.map((part) => [part.name, versions[part.out]?.number])).toEqual([
    ['hut', 4],
    ['bollard', 3],
  ]);
  expect((await drawnBy(ines, last.id, 'boll')).gone.map((part) => part.name)).toEqual(['bollard']);
});

test('through a branch that was joined, and a version that was brought forward, it stays theirs', async () => {
  const line = await startLine(tobias, first.id, 'Hut', '');
  await next(tobias, plan(0, hut), line.lineId);
  const branch = await next(tobias, plan(0, hut, bollard), line.lineId);
  await next(ines, plan(5));
  const proposal = await propose(ines, file.id, { kind: 'join', from: branch.id });
  const joined = await landProposal(ines, proposal.id, '', undefined);
  const wanted = { deck: ['Ines v1', 'Ines v2'], hut: ['Tobias v3'], bollard: ['Tobias v4'] };
  expect(stories(await found(joined))).toEqual(wanted);
  await next(ines, plan(9));
  const back = await bringForward(ines, joined.id, '');
  expect(stories(await found(back))).toEqual(wanted);
});

test('of a file without parts it is said that nothing is told', async () => {
  const { file: picture } = await makeFile(
    ines,
    file.projectId,
    null,
    'a.bin',
    incoming('a.bin', new Uint8Array([0, 1, 2, 0])),
    { note: '' },
  );
  expect(await drawnBy(ines, picture.newest.id)).toMatchObject({ ready: true, sentence: expect.any(String) as string });
});
