import { join } from 'node:path';
import pg from 'pg';
import type { FileEntry, Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { proveLedger, readLedger } from '../ledger/ledger.ts';
import { makeFolder, makeProject, changeFile } from '../projects/service.ts';
import { deleteFile } from '../sets/deleting.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { bringForward, listVersions, railOf } from '../versions/service.ts';
import { askFor, checkOut, giveUp, listHeld, standingOf, takeOver } from './service.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let lead: Person;
let ines: Person;
let anselm: Person;
let reader: Person;
let projectId: string;
let n = 0;
beforeAll(async () => {
  [lead, ines, anselm, reader] = [
    await makeTestPerson('lead', 'Tobias'),
    await makeTestPerson('editor', 'Ines'),
    await makeTestPerson('editor', 'Anselm'),
    await makeTestPerson('reader', 'Jory'),
  ];
  projectId = (await makeProject(lead, 'Landing')).id;
});
const add = async (): Promise<FileEntry> =>
  (await makeFile(ines, projectId, null, undefined, incoming(`plan-${++n}.txt`, 'one'), { note: 'first' })).file;
const put = (by: Person, file: FileEntry, text: string, more: object = {}) =>
  checkIn(by, file.id, incoming(file.name, text), { note: '', ...more });

describe('checking out', () => {
  test('of a hundred who want a file at once, exactly one gets it', async () => {
    const file = await add();
    const people = await Promise.all(Array.from({ length: 100 }, (_, i) => makeTestPerson('editor', `P${i}`)));
    const results = await Promise.allSettled(people.map((p) => checkOut(p, [file.id])));
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    const refused = results.find((r) => r.status === 'rejected') as PromiseRejectedResult;
    expect((refused.reason as Error).message).toMatch(
      /^“plan-\d+\.txt” is checked out by P\d+ since \d+ \w+,? \d\d:\d\d\. You can read it, branch off, or ask for it\.$/,
    );
    expect((await standingOf(reader, file.id)).checkout?.by.name).toMatch(/^P\d+$/);
  });

  test('several at once: all or none, whichever order they are named in', async () => {
    const [a, b, c] = [await add(), await add(), await add()];
    await checkOut(anselm, [b.id]);
    await expect(checkOut(ines, [a.id, b.id, c.id])).rejects.toThrow('None of the files was checked out for you.');
    expect((await listHeld(ines, { mine: 'yes' })).filter((h) => [a.id, b.id, c.id].includes(h.fileId))).toEqual([]);
    await giveUp(anselm, [b.id]);
    const both = await Promise.allSettled([
      checkOut(ines, [a.id, b.id, c.id], { desk: 'drawing office' }),
      checkOut(anselm, [c.id, b.id, a.id]),
    ]);
    expect(both.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    const holders = new Set(
      (await listHeld(reader, { project: projectId }))
        .filter((h) => [a.id, b.id, c.id].includes(h.fileId))
        .map((h) => h.by.name),
    );
    expect(holders.size).toBe(1);
  });

  test('again by the holder changes nothing; a reader is told whom to ask', async () => {
    const file = await add();
    await checkOut(ines, [file.id], { desk: 'office' });
    expect(await checkOut(ines, [file.id], { desk: 'elsewhere' })).toMatchObject([
      { by: { name: 'Ines' }, desk: 'office', number: 1 },
    ]);
    await expect(checkOut(reader, [file.id])).rejects.toThrow(
      "You can't check files out here: you are a reader. Ask Tobias.",
    );
  });

  test('what is deleted, or not there, cannot be checked out', async () => {
    const file = await add();
    await deleteFile(ines, file.id, 'not needed');
    await expect(checkOut(ines, [file.id])).rejects.toThrow('is deleted. Bring it back first.');
    await expect(checkOut(ines, ['00000000-0000-4000-8000-000000000000'])).rejects.toMatchObject({ status: 404 });
  });
});

describe('while somebody holds a file', () => {
  test('nobody else can check in, bring forward, rename or delete it', async () => {
    const file = await add();
    await put(ines, file, 'two');
    await checkOut(ines, [file.id]);
    const [first] = await listVersions(ines, file.id);
    for (const attempt of [
      () => put(anselm, file, 'three'),
      () => bringForward(anselm, first!.id, ''),
      () => changeFile(anselm, file.id, { name: 'other.txt' }),
      () => deleteFile(anselm, file.id, 'why'),
    ]) {
      await expect(attempt()).rejects.toMatchObject({ status: 409, code: 'checked-out' });
    }
    expect(await listVersions(ines, file.id)).toHaveLength(2);
  });

  test('the holder checks in, which gives it back, or keeps it', async () => {
    const file = await add();
    await checkOut(ines, [file.id]);
    await put(ines, file, 'two', { keep: true });
    expect((await standingOf(ines, file.id)).checkout?.by.name).toBe('Ines');
    await put(ines, file, 'three');
    expect((await standingOf(ines, file.id)).checkout).toBeNull();
    expect((await put(anselm, file, 'four')).version.number).toBe(4);
  });

  test('others ask for it, with a reason that the holder sees; giving up ends the asking', async () => {
    const file = await add();
    await checkOut(ines, [file.id]);
    await askFor(anselm, file.id, 'The stairs are due on Friday.');
    await askFor(anselm, file.id, 'The stairs are due tomorrow.');
    expect((await standingOf(ines, file.id)).checkout?.requests).toMatchObject([
      { by: { name: 'Anselm' }, reason: 'The stairs are due tomorrow.' },
    ]);
    await expect(askFor(ines, file.id, 'mine')).rejects.toThrow(/You hold/);
    expect(await giveUp(ines, [file.id])).toBe(1);
    expect(await giveUp(ines, [file.id])).toBe(0);
    await expect(askFor(anselm, file.id, 'still')).rejects.toThrow(
      'is not checked out any more. You can check it out now.',
    );
  });
});

describe('going on from an older version', () => {
  test('takes the file and makes the older version the source of what is checked in next, once', async () => {
    const file = await add();
    await put(ines, file, 'two');
    const [v1] = await listVersions(ines, file.id);
    expect(await checkOut(ines, [file.id], { from: v1!.id })).toMatchObject([{ number: 2, source: 1 }]);
    expect((await put(ines, file, 'one, better', { keep: true })).version).toMatchObject({ number: 3, source: 1 });
    expect((await standingOf(ines, file.id)).checkout).toMatchObject({ source: null });
    expect((await put(ines, file, 'one, better still')).version).toMatchObject({ number: 4, source: null });
    const other = await add();
    await expect(checkOut(ines, [other.id], { from: v1!.id })).rejects.toThrow('must be one of the file');
    expect((await standingOf(ines, other.id)).checkout).toBeNull();
  });
});

describe('taking over', () => {
  test('needs the permission and a reason; the former holder goes on in a branch, and nothing is lost', async () => {
    const file = await add();
    const base = (await listVersions(ines, file.id))[0]!.id;
    await checkOut(ines, [file.id]);
    await expect(takeOver(anselm, file.id, 'urgent')).rejects.toThrow(
      "You can't take over what others have checked out here: you are an editor. Ask Tobias.",
    );
    await takeOver(lead, file.id, 'Ines is ill');
    expect(await standingOf(ines, file.id)).toMatchObject({
      checkout: { by: { name: 'Tobias' } },
      takenOver: { by: { name: 'Tobias' }, reason: 'Ines is ill', number: 1 },
    });
    await put(lead, file, 'by Tobias');
    await expect(put(ines, file, 'by Ines', { base })).rejects.toMatchObject({
      code: 'taken-over',
      extra: { branch: true },
    });
    const branch = await put(ines, file, 'by Ines', { base, branch: true });
    expect(branch).toMatchObject({
      made: true,
      version: { number: 2, line: 'branch of Ines' },
      sentence: 'Checked in as v2 of a new branch, “branch of Ines”.',
    });
    expect((await listVersions(ines, file.id)).map((v) => [v.number, v.by.name])).toEqual([
      [1, 'Ines'],
      [2, 'Tobias'],
    ]);
    expect((await listVersions(ines, file.id, { line: 1 })).map((v) => [v.number, v.by.name])).toEqual([[2, 'Ines']]);
    expect((await railOf(ines, file.id)).lines).toMatchObject([
      { position: 0, name: 'main line', from: null },
      { position: 1, name: 'branch of Ines', from: { number: 1 } },
    ]);
    expect((await standingOf(ines, file.id)).takenOver).toBeNull();
  });

  test('a second branch of the same person has a name of its own', async () => {
    const file = await add();
    const base = (await listVersions(ines, file.id))[0]!.id;
    await put(ines, file, 'two', { base, branch: true });
    expect((await put(ines, file, 'three', { base, branch: true })).version.line).toBe('branch of Ines 2');
  });
});

describe('the ledger', () => {
  test('has every act with its reason, sealed in a chain', async () => {
    const file = await add();
    await checkOut(ines, [file.id], { desk: 'office' });
    await takeOver(lead, file.id, 'Ines is ill');
    await put(lead, file, 'two', { note: 'finished' });
    const { entries } = await readLedger(reader, { file: file.id });
    expect(entries.map((e) => [e.by?.name, e.act, e.reason])).toEqual([
      ['Tobias', 'checked in', 'finished'],
      ['Tobias', 'took over', 'Ines is ill'],
      ['Ines', 'checked out', ''],
      ['Ines', 'checked in', 'first'],
    ]);
    expect(await proveLedger()).toMatchObject({ broken: undefined });
    expect((await readLedger(reader, { file: file.id, act: 'took over' })).entries).toHaveLength(1);
    expect((await readLedger(reader, { words: 'is ILL', person: lead.id, file: file.id })).entries).toHaveLength(1);
  });

  test('cannot be changed by the application, and a change by somebody else shows', async () => {
    await expect(db().query(`update ledger set act = 'nothing'`)).rejects.toThrow(/only be added to|permission denied/);
    await expect(db().query('delete from ledger')).rejects.toThrow(/only be added to|permission denied/);
    // As somebody does who has the database itself.
    const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
    await client.connect();
    try {
      await client.query('begin; set local session_replication_role = replica');
      const { entries, seal } = await proveLedger(client);
      await client.query(
        `update ledger set entry = replace(entry, 'Ines is ill', 'Ines is well') where seq = (select min(seq) from ledger where act = 'took over')`,
      );
      const proof = await proveLedger(client);
      expect(proof.broken?.why).toBe('it was changed, or one before it was');
      expect(proof.entries).toBeLessThan(entries);
      expect(proof.seal).not.toBe(seal);
      await client.query(
        'rollback; begin; set local session_replication_role = replica; delete from ledger where seq = 3',
      );
      expect((await proveLedger(client)).broken).toEqual({ seq: 4, why: 'entry 3 is missing' });
    } finally {
      await client.end();
    }
  });

  test('takes entries of many people at once without a gap', async () => {
    await Promise.all(Array.from({ length: 20 }, (_, i) => makeFolder(lead, projectId, null, `Folder ${i}`)));
    expect(await proveLedger()).toMatchObject({ broken: undefined });
  });
});
