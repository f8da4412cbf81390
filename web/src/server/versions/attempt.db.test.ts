/** Check-ins that are sent again because their answer was lost. */
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { FileEntry, Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile, type Incoming } from './checkin.ts';
import { listVersions } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let ines: Person;
let projectId: string;
let count = 0;

beforeAll(async () => {
  projectId = (await makeProject(await makeTestPerson('lead', 'Tobias'), 'Landing')).id;
  ines = await makeTestPerson('editor', 'Ines');
});

const add = async (): Promise<FileEntry> => {
  count += 1;
  return (await makeFile(ines, projectId, null, `plan-${count}.txt`, incoming('plan.txt', 'one'), { note: '' })).file;
};

const numbersOf = async (file: FileEntry): Promise<number[]> =>
  (await listVersions(ines, file.id, {})).map((version) => version.number);

async function* list(...files: Incoming[]): AsyncGenerator<Incoming> {
  yield* files;
}

test('the same check-in again gets its first answer, and makes no second version', async () => {
  const file = await add();
  const key = randomUUID();
  const send = () => checkIn(ines, file.id, incoming('other.txt', 'two'), { note: '', key, base: file.newest.id });
  const first = await send();
  // Without the key this would be refused: a newer version is there.
  const second = await send();
  expect(second).toEqual(first);
  expect(second.hints).toHaveLength(1);
  expect(await numbersOf(file)).toEqual([1, 2]);
});

test('what is sent again later, after others went on, still gets its own answer', async () => {
  const file = await add();
  const key = randomUUID();
  const first = await checkIn(ines, file.id, incoming('plan.txt', 'two'), { note: '', key });
  await checkIn(ines, file.id, incoming('plan.txt', 'three'), { note: '' });
  const again = await checkIn(ines, file.id, incoming('plan.txt', 'two'), { note: '', key });
  expect(again.version.id).toBe(first.version.id);
  expect(await numbersOf(file)).toEqual([1, 2, 3]);
});

test('both at once make one version, with and without a base', async () => {
  for (const base of [true, false]) {
    const file = await add();
    const key = randomUUID();
    const send = () =>
      checkIn(ines, file.id, incoming('plan.txt', `two ${base}`), {
        note: '',
        key,
        ...(base && { base: file.newest.id }),
      });
    const answers = await Promise.all([send(), send(), send()]);
    expect(new Set(answers.map((answer) => answer.version.id)).size).toBe(1);
    expect(answers.every((answer) => answer.made)).toBe(true);
    expect(await numbersOf(file)).toEqual([1, 2]);
  }
});

test('without a key, or with another one, the same bytes are another check-in', async () => {
  const file = await add();
  const send = (text: string, key?: string) => checkIn(ines, file.id, incoming('plan.txt', text), { note: '', key });
  await send('two', randomUUID());
  await send('one');
  await send('two', randomUUID());
  expect(await numbersOf(file)).toEqual([1, 2, 3, 4]);
});

test('one that failed may be sent again with its key', async () => {
  const file = await add();
  const key = randomUUID();
  const broken: Incoming = {
    name: 'plan.txt',
    bytes: (async function* () {
      yield new TextEncoder().encode('tw');
      throw new Error('cut off');
    })(),
  };
  await expect(checkIn(ines, file.id, broken, { note: '', key })).rejects.toThrow('cut off');
  expect((await checkIn(ines, file.id, incoming('plan.txt', 'two'), { note: '', key })).version.number).toBe(2);
});

test('a key that was used elsewhere is refused; somebody else has keys of their own', async () => {
  const [one, two] = [await add(), await add()];
  const key = randomUUID();
  await checkIn(ines, one.id, incoming('plan.txt', 'two'), { note: '', key });
  await expect(checkIn(ines, two.id, incoming('plan.txt', 'two'), { note: '', key })).rejects.toMatchObject({
    status: 422,
    code: 'key-used',
  });
  const anselm = await makeTestPerson('editor', 'Anselm');
  const theirs = await checkIn(anselm, one.id, incoming('plan.txt', 'three'), { note: '', key });
  expect(theirs.version.number).toBe(3);
});

test('a new file is made once, though its name is taken the second time', async () => {
  const key = randomUUID();
  const send = () => makeFile(ines, projectId, null, 'once.txt', incoming('once.txt', 'one'), { note: '', key });
  const first = await send();
  expect((await send()).file.id).toBe(first.file.id);
  const both = await Promise.all([send(), send()]);
  expect(both.map((made) => made.file.id)).toEqual([first.file.id, first.file.id]);
});

test('a set is made once, with what was the same', async () => {
  const [one, two] = [await add(), await add()];
  const key = randomUUID();
  const plan = [{ fileId: one.id }, { fileId: two.id }, { name: `new-${count}.txt` }];
  const send = () =>
    checkInSet(
      ines,
      projectId,
      plan,
      list(incoming('a.txt', 'two'), incoming('b.txt', 'one'), incoming('c.txt', 'new')),
      { note: 'Together', key },
    );
  const sets = await countRows('checkin_set');
  const first = await send();
  expect(first.same).toEqual([two.name]);
  expect(await send()).toEqual(first);
  expect(await countRows('checkin_set')).toBe(sets + 1);
});

test('keys are forgotten after a week', async () => {
  await db().query(`update attempt set at = now() - interval '8 days'`);
  const file = await add();
  await checkIn(ines, file.id, incoming('plan.txt', 'two'), { note: '', key: randomUUID() });
  expect(await countRows('attempt')).toBe(1);
});
