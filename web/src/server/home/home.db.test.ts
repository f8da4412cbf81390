import type { FileEntry, Person } from '../../contract/api.ts';
import { askFor, checkOut } from '../checkouts/service.ts';
import { addComment } from '../comments/service.ts';
import { db } from '../db/pool.ts';
import { setKeeping } from '../keeping/service.ts';
import { setAccess } from '../people/granting.ts';
import { makeFolder } from '../projects/service.ts';
import { save } from '../saving/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { withLanding } from '../testing/landing.ts';
import { checkIn } from '../versions/checkin.ts';
import { titleVersion } from '../versions/titles.ts';
import { beHere } from './rows.ts';
import { follow, follows, homeOf, visit } from './service.ts';

withTestDatabase();

const sheet = (x: number): string =>
  `<svg xmlns="http://www.w3.org/2000/svg"><rect x="${x}" width="9" height="9"/></svg>`;
const landing = withLanding('plan.svg', sheet);
let ines: Person;
let tobias: Person;
let projectId: string;
let file: FileEntry;
beforeEach(() => {
  ({ ines, tobias, projectId, file } = landing);
});

const news = async (by: Person): Promise<string[]> =>
  (await homeOf(by)).news.map(({ by: who, act, times, subject }) => `${who?.name ?? ''} ${act} ${times} ${subject}`);

test('what others did to files that one worked on is told, with a picture, and once where it was done again and again', async () => {
  const { version } = await checkIn(tobias, file.id, incoming('plan.svg', sheet(20)), { note: 'The deck moves' });
  await titleVersion(tobias, version.id, { title: 'For the council', description: 'As agreed' });
  await db().query('update project set saves_count = true where id = $1', [projectId]);
  for (const x of [30, 40, 50])
    await save(tobias, file.id, incoming('plan.svg', sheet(x)), { key: undefined, base: undefined, title: undefined });
  expect(await news(ines)).toEqual([
    'Tobias saved 3 plan.svg v5',
    'Tobias titled a version 1 plan.svg v2, “For the council”',
    'Tobias checked in 1 plan.svg v2',
  ]);
  const [, titled, checkedIn] = (await homeOf(ines)).news;
  expect(titled?.reason).toBe('As agreed');
  expect(checkedIn).toMatchObject({ reason: 'The deck moves', picture: { versionId: version.id, format: 'svg' } });
  // One's own doing is no news.
  expect(await news(tobias)).toEqual(['Ines checked in 1 plan.svg v1']);
});

test('what was told at the last visit is not told at the next, and stays while one is here', async () => {
  await checkIn(tobias, file.id, incoming('plan.svg', sheet(20)), { note: '' });
  expect(await news(ines)).toHaveLength(1);
  await visit(ines);
  expect(await news(ines)).toHaveLength(1);
  // Another visit begins.
  await beHere(db(), ines.id, 0);
  expect(await news(ines)).toEqual([]);
  await checkIn(tobias, file.id, incoming('plan.svg', sheet(30)), { note: '' });
  expect(await news(ines)).toEqual(['Tobias checked in 1 plan.svg v3']);
  expect((await homeOf(ines)).since).not.toBeNull();
});

test('files are followed by working on them or by choice, and not any more when one says so', async () => {
  const anselm = await makeTestPerson('reader', 'Anselm');
  expect(await follows(anselm, file.id)).toEqual({ follows: false });
  expect(await follow(anselm, file.id, true)).toEqual({ follows: true });
  await checkIn(tobias, file.id, incoming('plan.svg', sheet(20)), { note: '' });
  expect(await news(anselm)).toEqual(['Tobias checked in 1 plan.svg v2', `Ines checked in 1 plan.svg v1`]);
  await follow(ines, file.id, false);
  expect(await news(ines)).toEqual([]);
  await addComment(anselm, file.id, { version: file.newest.id, body: 'Why?' });
  await follow(anselm, file.id, false);
  expect(await news(anselm)).toEqual([]);
});

test('what is closed to somebody is neither news nor on the tiles', async () => {
  const closed = await makeFolder(ines, projectId, null, 'Closed');
  const secret = await landing.add('secret.svg', closed.id, sheet(60));
  await follow(tobias, secret.id, true);
  await follow(tobias, file.id, false);
  await setAccess(ines, { projectId, folderId: closed.id }, null, []);
  const marit = await makeTestPerson('administrator', 'Marit');
  await checkIn(marit, secret.id, incoming('secret.svg', sheet(70)), { note: '' });
  const home = await homeOf(tobias);
  expect(home.news).toEqual([]);
  const tile = home.projects.find(({ id }) => id === projectId);
  expect(tile).toMatchObject({ files: 1, picture: { versionId: file.newest.id } });
  expect(tile?.activity.at(-1)).toBe(1);
});

test('who asks for what one holds is told, and so are one’s check-outs and versions that will go', async () => {
  await checkOut(tobias, [file.id], {});
  await askFor(ines, file.id, 'I need it on Friday');
  await save(tobias, file.id, incoming('plan.svg', sheet(20)), { key: undefined, base: undefined, title: undefined });
  await save(tobias, file.id, incoming('plan.svg', sheet(30)), { key: undefined, base: undefined, title: undefined });
  const forEver = [{ one: 'version' as const, days: null }];
  const rule = { 'check-in': forEver, autosave: [{ one: 'version' as const, days: 3 }], backup: forEver };
  await setKeeping(ines, projectId, { folder: undefined, content: undefined, rule });
  const home = await homeOf(tobias);
  expect(home.asks).toMatchObject([
    { by: { name: 'Ines' }, reason: 'I need it on Friday', file: { name: 'plan.svg' } },
  ]);
  expect(home.held).toMatchObject([{ file: { name: 'plan.svg' }, line: null }]);
  expect(home.going.versions.map(({ number }) => number)).toEqual([2]);
  const [tile] = (await homeOf(ines)).projects;
  expect(tile?.working).toEqual([{ id: tobias.id, name: 'Tobias', how: 'holds' }]);
});
